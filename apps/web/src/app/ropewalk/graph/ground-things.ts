import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { DocumentService } from '../document/document.service';
import { areasOf, changeArea, changeNote, moveArea, notesOf, removeArea, removeNote, type Area, type Note } from '../document/layout';

type Drag =
  | { readonly kind: 'area'; readonly area: Area; readonly x: number; readonly y: number; moved: boolean }
  | { readonly kind: 'size'; readonly area: Area; readonly x: number; readonly y: number; moved: boolean }
  | { readonly kind: 'note'; readonly note: Note; readonly x: number; readonly y: number; moved: boolean };

/** Areas and notes: they lie on the ground, under the tags, and move with what stands in them. */
@Component({
  selector: 'fx-ground-things',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (area of areas(); track area.id) {
      <section class="area" [style.left.px]="area.at[0]" [style.top.px]="area.at[1]" [style.width.px]="area.size[0]" [style.height.px]="area.size[1]">
        <header (pointerdown)="begin($event, { kind: 'area', area })" (pointermove)="drag($event)" (pointerup)="end()" (pointercancel)="cancel()">
          <input
            #title
            type="text"
            maxlength="80"
            aria-label="Title of the area"
            [value]="area.title"
            (pointerdown)="$event.stopPropagation()"
            (change)="retitle(area, title.value)"
            (keydown.enter)="title.blur()"
          />
          <button
            type="button"
            [attr.aria-label]="'Remove the area ' + area.title + '; its nodes stay'"
            title="Remove the area; its nodes stay"
            (pointerdown)="$event.stopPropagation()"
            (click)="drop(area)"
          >
            ×
          </button>
        </header>
        <span
          class="corner"
          (pointerdown)="begin($event, { kind: 'size', area })"
          (pointermove)="drag($event)"
          (pointerup)="end()"
          (pointercancel)="cancel()"
        ></span>
      </section>
    }
    @for (note of notes(); track note.id) {
      <div class="note" [style.left.px]="note.at[0]" [style.top.px]="note.at[1]">
        <span
          class="grip"
          (pointerdown)="begin($event, { kind: 'note', note })"
          (pointermove)="drag($event)"
          (pointerup)="end()"
          (pointercancel)="cancel()"
        ></span>
        <textarea
          #text
          rows="3"
          maxlength="2000"
          aria-label="Note"
          placeholder="Write a note"
          [value]="note.text"
          (pointerdown)="$event.stopPropagation()"
          (wheel)="$event.stopPropagation()"
          (change)="write(note, text.value)"
        ></textarea>
        <button type="button" aria-label="Remove the note" title="Remove the note" (pointerdown)="$event.stopPropagation()" (click)="tear(note)">×</button>
      </div>
    }
  `,
  styles: `
    .area {
      position: absolute;
      border: 1px solid var(--tag-edge);
      border-radius: 6px;
      background: color-mix(in srgb, var(--hemp) 20%, transparent);
    }
    header {
      display: flex;
      align-items: center;
      height: 26px;
      padding: 0 4px 0 8px;
      cursor: grab;
    }
    input {
      flex: 1;
      min-width: 0;
      border: 0;
      background: none;
      color: var(--indigo);
      font: 650 13.5px var(--sans);
    }
    button {
      padding: 0 5px;
      border: 0;
      background: none;
      color: var(--slate);
      font: 16px/1 var(--sans);
      cursor: pointer;
      opacity: 0;
    }
    .area:hover button,
    .note:hover button,
    button:focus {
      opacity: 1;
    }
    .corner {
      position: absolute;
      right: 0;
      bottom: 0;
      width: 14px;
      height: 14px;
      border-right: 3px double var(--tag-edge);
      border-bottom: 3px double var(--tag-edge);
      cursor: nwse-resize;
    }
    .note {
      position: absolute;
      display: grid;
      grid-template-columns: 1fr auto;
      width: 190px;
      border: 1px solid color-mix(in srgb, var(--weld) 60%, var(--seam));
      background: color-mix(in srgb, var(--weld) 16%, var(--paper));
    }
    .grip {
      grid-column: 1 / 3;
      height: 8px;
      background: color-mix(in srgb, var(--weld) 34%, var(--paper));
      cursor: grab;
    }
    textarea {
      field-sizing: content;
      min-height: 40px;
      padding: 4px 7px;
      border: 0;
      background: none;
      color: var(--indigo);
      font: 13px/1.35 var(--sans);
      resize: none;
    }
    .note button {
      align-self: start;
    }
  `,
})
export class GroundThings {
  private readonly documents = inject(DocumentService);
  readonly zoom = input.required<number>();
  protected readonly areas = computed(() => areasOf(this.documents.document()));
  protected readonly notes = computed(() => notesOf(this.documents.document()));
  private readonly held = signal<Drag | null>(null);
  private by: readonly [number, number] = [0, 0];

  protected begin(event: PointerEvent, what: { kind: 'area'; area: Area } | { kind: 'size'; area: Area } | { kind: 'note'; note: Note }): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.by = [0, 0];
    this.held.set({ ...what, x: event.clientX, y: event.clientY, moved: false });
  }

  protected drag(event: PointerEvent): void {
    const held = this.held();
    if (!held) return;
    event.stopPropagation();
    this.by = [Math.round((event.clientX - held.x) / this.zoom()), Math.round((event.clientY - held.y) / this.zoom())];
    held.moved ||= Math.hypot(...this.by) > 2;
    if (held.moved) this.documents.show(this.changed(held));
  }

  private changed(held: Drag): ReturnType<typeof moveArea> {
    const document = this.documents.settledDocument();
    const [dx, dy] = this.by;
    if (held.kind === 'area') return moveArea(document, held.area.id, dx, dy);
    if (held.kind === 'size') return changeArea(document, held.area.id, { size: [Math.max(90, held.area.size[0] + dx), Math.max(60, held.area.size[1] + dy)] });
    return changeNote(document, held.note.id, { at: [held.note.at[0] + dx, held.note.at[1] + dy] });
  }

  protected end(): void {
    const held = this.held();
    this.held.set(null);
    if (held?.moved) this.documents.apply(held.kind === 'note' ? 'Move note' : held.kind === 'size' ? 'Size of area' : 'Move area', this.changed(held));
  }

  protected cancel(): void {
    this.held.set(null);
    this.documents.dropPreview();
  }

  protected retitle(area: Area, text: string): void {
    if (text.trim()) this.documents.apply('Title of area', changeArea(this.documents.document(), area.id, { title: text.trim() }));
  }

  protected drop(area: Area): void {
    this.documents.apply('Remove area', removeArea(this.documents.document(), area.id));
  }

  protected write(note: Note, text: string): void {
    this.documents.apply('Note', changeNote(this.documents.document(), note.id, { text }));
  }

  protected tear(note: Note): void {
    this.documents.apply('Remove note', removeNote(this.documents.document(), note.id));
  }
}
