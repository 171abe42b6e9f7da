import { inject, Injectable, Injector, type ErrorHandler } from '@angular/core';
import { Subject } from 'rxjs';
import { ApiService } from './api.service';

/** Reports that are sent from one page at most. */
const mostReports = 10;

/** Where in the program an error was: files and lines alone, since messages may hold what is in a document. */
const placesOf = (stack: string): string =>
  [...stack.matchAll(/[\w.-]+\.js:\d+:\d+/g)]
    .map(([place]) => place)
    .slice(0, 20)
    .join(' ');

/** Errors that nothing caught: told on the console, to the server's log, and to the panels, one of which may be the cause. */
@Injectable({ providedIn: 'root' })
export class Faults implements ErrorHandler {
  /** Asked for late, since it is made before everything else. */
  private readonly injector = inject(Injector);
  readonly met = new Subject<unknown>();
  private sent = 0;

  handleError(error: unknown): void {
    console.error(error);
    this.met.next(error);
    if (!(error instanceof Error) || this.sent++ >= mostReports) return;
    this.injector
      .get(ApiService)
      .report(error.name, placesOf(error.stack ?? ''))
      .catch(() => undefined);
  }
}
