import { computed, inject, Injectable, signal } from '@angular/core';
import { DocumentService } from '../document/document.service';
import { stepAt, type Lesson, type Step } from './lesson';
import { lessons } from './lessons';

/** The lesson that is taken, and where in it the document is. */
@Injectable()
export class Learning {
  private readonly documents = inject(DocumentService);

  readonly lesson = signal<Lesson | null>(null);
  /** Steps that are done, from the first on. */
  readonly at = computed(() => {
    const lesson = this.lesson();
    return lesson ? stepAt(lesson, this.documents.document()) : 0;
  });
  /** What is to be done now; null: all of it is done, or no lesson is taken. */
  readonly step = computed<Step | null>(() => this.lesson()?.steps[this.at()] ?? null);
  /** Lessons that could be taken instead. */
  readonly others = computed(() => lessons.filter((each) => each !== this.lesson()));

  /** Takes a lesson up by its id; an unknown one is none. */
  begin(id: string | undefined): void {
    this.lesson.set(lessons.find((lesson) => lesson.id === id) ?? null);
  }

  leave(): void {
    this.lesson.set(null);
  }

  /** What is used for the step, if it is on screen. */
  aim(): HTMLElement | SVGElement | null {
    const found = this.step()?.aims(this.documents.document()).map((aim) => document.querySelector<HTMLElement | SVGElement>(aim)); // prettier-ignore
    return found?.find((each) => each !== null) ?? null;
  }
}
