import { inject, Injectable } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import type { Observable } from 'rxjs';

/** How long a word stands, ms; one that takes reading stands longer. */
const stands = { plain: 6000, long: 12000 };

/** Words that stand at the foot of the window for a while. */
@Injectable({ providedIn: 'root' })
export class Notices {
  private readonly bar = inject(MatSnackBar);

  say(text: string, how: keyof typeof stands = 'plain'): void {
    this.bar.open(text, 'Close', { duration: stands[how] });
  }

  /** Says it with something that can be done about it; tells when that is chosen. */
  offer(text: string, action: string): Observable<void> {
    return this.bar.open(text, action, { duration: stands.long }).onAction();
  }
}
