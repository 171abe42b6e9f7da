import { Injectable, signal } from '@angular/core';

/** The moment of the timeline that is looked at. It is no part of the document: looking at another is no edit. */
@Injectable()
export class Moment {
  /** Seconds. */
  readonly time = signal(0);
}
