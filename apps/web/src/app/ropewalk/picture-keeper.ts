import { inject, Injectable } from '@angular/core';
import { debounceTime, switchMap, type Observable } from 'rxjs';
import { ApiService } from '../shared/api.service';
import { afterTyping } from '../shared/typing';
import { DocumentService } from './document/document.service';
import { EvaluationService } from './evaluation.service';

/** How long pictures rest before one is kept, ms. */
const rest = 1500;

/** Keeps a picture of the newest saved version for the Library. */
@Injectable()
export class PictureKeeper {
  private readonly api = inject(ApiService);
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  /** The version that the kept picture shows. */
  private shown = 0;
  /** Takes a picture as it is seen now; null: there is none. */
  snapshot: () => Promise<Blob | null> = () => Promise.resolve(null);

  /** Told by every picture that was drawn, once they and the hand rest, since the page stands still meanwhile: `keep` is due. */
  readonly due: Observable<unknown> = this.evaluation.pictures.pipe(
    debounceTime(rest),
    switchMap(() => afterTyping(rest)),
  );

  /** The server has a picture of this version already. */
  begin(version: number): void {
    this.shown = version;
  }

  async keep(): Promise<void> {
    const [id, version, counts] = [this.documents.id(), this.documents.version(), this.evaluation.counts()];
    if (!id || version === this.shown || !this.documents.isSaved || !counts) return;
    this.shown = version;
    const png = await this.snapshot();
    // Without one, the next chance is taken.
    if (!png) this.shown = 0;
    else await this.api.setPicture(id, version, png, { faces: counts.faces, points: counts.points }).catch(() => (this.shown = 0));
  }
}
