import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, viewChild, type OnInit } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { DatePipe } from '@angular/common';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { Router, RouterLink } from '@angular/router';
import { debounceTime, firstValueFrom, Subject } from 'rxjs';
import { emptyDocument, type FilaxisDocument } from '@filaxis/core';
import { packDocument, unpackDocument } from '@filaxis/formats';
import type { DocumentCard } from '@filaxis/protocol';
import { ApiService } from '../shared/api.service';
import { ask } from '../shared/ask-dialog';
import { download, fileName, sha256 } from '../shared/assets';
import { ChoiceField, type Choice } from '../shared/choice-field';
import { Notices } from '../shared/notices';
import { ThemeService } from '../shared/theme.service';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { DeletedDialog } from './deleted-dialog';

/** Documents of a page, and most that are loaded at once. */
const [pageSize, mostAtOnce] = [60, 180];
/** Of a card, px: least width, way to the next, height of what is written below its picture, and how wide the picture is for its height. */
const cardSize = { least: 270, gap: 20, text: 82, shape: 1.6 };

/** How long cards have to have stood where they are for a hand to have seen them there, ms. */
const sureAfter = 1000;

/** All documents, as cards with pictures. */
@Component({
  selector: 'fx-library',
  imports: [ChoiceField, DatePipe, MatButtonModule, MatFormFieldModule, MatIconModule, MatInputModule, MatMenuModule, RouterLink, ScrollingModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './library.page.html',
  styleUrl: './library.page.scss',
  host: { '(window:dragover)': '$event.preventDefault()', '(window:drop)': 'drop($event)' },
})
export class LibraryPage implements OnInit {
  private readonly api = inject(ApiService);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly dialogs = inject(MatDialog);
  protected readonly themes = inject(ThemeService);

  /** Those loaded so far; null: none yet. */
  protected readonly cards = signal<readonly DocumentCard[] | null>(null);
  /** The server has more of them. */
  protected readonly more = signal(false);
  protected readonly failed = signal<string | null>(null);
  protected readonly search = signal('');
  protected readonly sort = signal<'changed' | 'name'>('changed');
  protected readonly renaming = signal<string | null>(null);

  private readonly wanted = new Subject<void>();
  private readonly viewport = viewChild(CdkVirtualScrollViewport);
  private readonly width = signal(0);
  /** How many cards stand in a row, and how high a row is with what keeps it from the next: only rows in sight are on the page. */
  protected readonly shelf = computed(() => {
    const { least, gap, text, shape } = cardSize;
    const columns = Math.max(1, Math.floor(this.width() / (least + gap)));
    return { columns, height: Math.ceil((this.width() / columns - gap) / shape) + text + gap };
  });
  protected readonly rows = computed(() => {
    const [cards, { columns }] = [this.cards() ?? [], this.shelf()];
    return Array.from({ length: Math.ceil(cards.length / columns) }, (_, row) => cards.slice(row * columns, (row + 1) * columns));
  });
  protected readonly firstOf = (_: number, [first]: readonly DocumentCard[]): string => first.id;

  constructor() {
    effect((gone) => {
      const element = this.viewport()?.elementRef.nativeElement;
      if (!element) return;
      const seen = new ResizeObserver(([{ contentRect }]) => {
        this.width.set(contentRect.width);
        this.viewport()?.checkViewportSize();
      });
      seen.observe(element);
      gone(() => seen.disconnect());
    });
    this.wanted.pipe(debounceTime(200), takeUntilDestroyed()).subscribe(() => void this.load());
  }

  ngOnInit(): Promise<void> {
    return this.load();
  }

  protected look(search: string): void {
    this.search.set(search);
    this.wanted.next();
  }

  protected readonly orders: readonly Choice<'changed' | 'name'>[] = [
    { value: 'changed', label: 'last changed first' },
    { value: 'name', label: 'by name' },
  ];

  protected order(sort: 'changed' | 'name'): void {
    this.sort.set(sort);
    this.wanted.next();
  }

  /** Loads the first page, or as many as are shown. */
  protected async load(): Promise<void> {
    const shown = Math.min(mostAtOnce, Math.max(pageSize, Math.ceil((this.cards()?.length ?? 0) / pageSize) * pageSize));
    await this.loadPage(0, shown);
  }

  /** Loads the next page once the last rows of those before come near. */
  protected scrolled(): void {
    const end = this.viewport()?.getRenderedRange().end ?? 0;
    if (this.more() && !this.loading && end >= this.rows().length - 1) void this.loadPage(this.cards()?.length ?? 0, pageSize);
  }

  private loading = false;

  private async loadPage(from: number, count: number): Promise<void> {
    const [search, sort] = [this.search(), this.sort()];
    this.loading = true;
    try {
      const page = await this.api.list({ from, count, search, sort });
      // Who typed on meanwhile has asked for others.
      if (search !== this.search() || sort !== this.sort()) return;
      const before = from ? (this.cards() ?? []).slice(0, from) : [];
      const known = new Set(before.map(({ id }) => id));
      this.put([...before, ...page.filter(({ id }) => !known.has(id))]);
      this.more.set(page.length === count);
      this.failed.set(null);
    } catch (error) {
      this.failed.set((error as Error).message);
    } finally {
      this.loading = false;
    }
  }

  protected async create(): Promise<void> {
    await this.attempt(async () => {
      const { id } = await this.api.create(emptyDocument);
      await this.router.navigate(['/d', id]);
    });
  }

  protected async rename(card: DocumentCard, title: string): Promise<void> {
    // Enter and then leaving the field ask twice; the second finds nothing to do.
    if (this.renaming() !== card.id) return;
    this.renaming.set(null);
    const text = title.trim();
    if (!text || text === card.title) return;
    await this.attempt(async () => {
      const { document, version } = await this.api.open(card.id);
      await this.api.save(card.id, version, { ...document, title: text });
      await this.load();
    });
  }

  protected async duplicate(card: DocumentCard): Promise<void> {
    await this.attempt(async () => {
      const { document } = await this.api.open(card.id);
      const made = await this.api.create({ ...document, title: this.freeTitle(document.title) });
      const picture = await this.api.picture(card.id);
      if (picture) await this.api.setPicture(made.id, made.version, picture);
      await this.load();
    });
  }

  /** The menu of a card is open; cards stay where they are meanwhile, and one aimed at just after they moved may be another than was meant. */
  private opened: { readonly id: string; readonly unsure: boolean } | null = null;
  private late: (() => void) | null = null;
  private movedAt = -Infinity;

  protected menuOpened({ id }: DocumentCard): void {
    this.opened = { id, unsure: this.justMoved() };
  }

  protected menuClosed(): void {
    const show = this.late;
    this.opened = this.late = null;
    show?.();
  }

  private justMoved(): boolean {
    return performance.now() - this.movedAt < sureAfter;
  }

  /** Puts other cards in the places of those that are shown, once no menu is open. */
  private put(cards: readonly DocumentCard[]): void {
    const before = this.cards();
    const moved = !!before && before.some(({ id }, i) => cards[i]?.id !== id);
    const show = (): void => {
      if (moved) this.movedAt = performance.now();
      this.cards.set(cards);
    };
    if (this.opened && moved) this.late = show;
    else show();
  }

  protected showDeleted(): void {
    this.dialogs
      .open(DeletedDialog, { width: '640px' })
      .afterClosed()
      .subscribe(() => void this.load());
  }

  /** Deletes a document; it asks where the cards had just moved, so that the one under the pointer may be another than was meant. */
  protected async remove(card: DocumentCard): Promise<void> {
    const unsure = this.opened?.id === card.id ? this.opened.unsure : this.justMoved();
    const question = { title: `Delete “${card.title}”?`, text: 'The list had just changed, so it may not be the document that you meant.', action: 'Delete' };
    if (unsure && !(await firstValueFrom(ask(this.dialogs, question)))) return;
    await this.attempt(async () => {
      await this.api.remove(card.id);
      await this.load();
      this.notices
        .offer(`“${card.title}” was deleted.`, 'Undo')
        .subscribe(() => void this.attempt(async () => this.api.restore(card.id).then(() => this.load())));
    });
  }

  protected async exportFile(card: DocumentCard): Promise<void> {
    await this.attempt(async () => {
      // What cannot be read here is given as it is stored.
      if (card.damaged) return download(new TextEncoder().encode(await this.api.text(card.id)), `${fileName(card.title)}.json`, 'application/json');
      const { document } = await this.api.open(card.id);
      const assets = new Map<string, Uint8Array>();
      for (const hash of Object.keys(document.assets ?? {})) assets.set(hash, await this.api.asset(hash));
      download(packDocument({ document, assets }), `${fileName(document.title)}.filaxis.zip`, 'application/zip');
    });
  }

  protected choose(): void {
    const picker = Object.assign(document.createElement('input'), { type: 'file', accept: '.json,.zip', multiple: true });
    picker.onchange = () => void this.importFiles([...(picker.files ?? [])]);
    picker.click();
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    void this.importFiles([...(event.dataTransfer?.files ?? [])]);
  }

  protected openMenuKey(event: KeyboardEvent, card: DocumentCard): void {
    if (event.key === 'F2') this.renaming.set(card.id);
    else if (event.key === 'Delete') void this.remove(card);
  }

  private async importFiles(files: readonly File[]): Promise<void> {
    for (const file of files)
      await this.attempt(async () => {
        const { document, assets } = unpackDocument(new Uint8Array(await file.arrayBuffer()));
        for (const [hash, bytes] of assets) {
          const name = document.assets?.[hash]?.name ?? 'file';
          await this.api.putAsset(await sha256(bytes as Uint8Array<ArrayBuffer>), name, bytes as Uint8Array<ArrayBuffer>);
        }
        await this.api.create(document satisfies FilaxisDocument);
        await this.load();
        this.notices.say(`“${document.title}” was imported.`);
      }, file.name);
  }

  private freeTitle(title: string): string {
    const taken = new Set((this.cards() ?? []).map((card) => card.title));
    const base = title.replace(/ copy( \d+)?$/, '');
    for (let n = 1; ; n++) {
      const wanted = n === 1 ? `${base} copy` : `${base} copy ${n}`;
      if (!taken.has(wanted)) return wanted;
    }
  }

  private async attempt(step: () => Promise<unknown>, what = ''): Promise<void> {
    try {
      await step();
    } catch (error) {
      this.notices.say(`${what ? `${what}: ` : ''}${(error as Error).message}`, 'long');
    }
  }
}
