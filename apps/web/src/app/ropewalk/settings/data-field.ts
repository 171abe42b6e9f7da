import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatSelectModule } from '@angular/material/select';
import { standingPlaces, usualStanding, type DataEditor, type GraphNode, type MirrorPlane, type Standing, type StandingPlace, labelById } from '@filaxis/core';
import { NumberField } from '../../shared/number-field';
import { DocumentService } from '../document/document.service';

interface Row {
  readonly name: string;
  readonly standing: Standing;
}

/** What each kind of place is called in the list, and beside the object. */
const placeNames: Readonly<Record<StandingPlace, { readonly long: string; readonly short: string }>> = {
  along: { long: 'along the run', short: 'along' },
  joints: { long: 'where pieces meet, and at free ends', short: 'between' },
  bends: { long: 'at corners', short: 'corners' },
  first: { long: 'as the first piece', short: 'first' },
  last: { long: 'as the last piece', short: 'last' },
  ends: { long: 'after the last piece', short: 'after' },
};
const planeParts = ['point', 'normal'] as const;
const firstPlane: MirrorPlane = { point: [0, 0, 0], normal: [1, 0, 0] };

/** Data of a node that is edited by hand: a row for each object that comes in, a plane by point and normal; drawn curves are edited in the 3D view. */
@Component({
  selector: 'fx-data',
  imports: [MatCheckboxModule, MatSelectModule, NgTemplateOutlet, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @switch (edit()) {
      @case ('plane') {
        <mat-checkbox [checked]="!!plane()" (change)="commit($event.checked ? firstPlane : null)">a plane of its own</mat-checkbox>
        @if (plane(); as own) {
          <ng-container [ngTemplateOutlet]="numbers" [ngTemplateOutletContext]="{ own, called: label(), which: null }" />
        }
      }
      @case ('curves') {
        <span class="slate">{{ count() === 1 ? '1 curve' : count() + ' curves' }}, drawn in the 3D view</span>
      }
      @case ('planes') {
        <span class="slate">{{ count() === 1 ? '1 plane' : count() + ' planes' }}, drawn in the 3D view</span>
        @for (own of drawnPlanes(); track $index; let p = $index) {
          <ng-container [ngTemplateOutlet]="numbers" [ngTemplateOutletContext]="{ own, called: 'Plane ' + (p + 1), which: p }" />
        }
      }
      @case ('rules') {
        <span class="slate">{{ ruleCount() === 1 ? '1 rule' : ruleCount() + ' rules' }}</span>
      }
      @case ('strokes') {
        <span class="slate">{{ count() === 1 ? '1 stroke' : count() + ' strokes' }}, drawn on the body in the 3D view</span>
      }
      @default {
        @if (rows().length) {
          <table>
            <thead>
              <tr>
                <th scope="col">object</th>
                @if (edit() === 'stands') {
                  <th scope="col">stands</th>
                  <th scope="col">length, m</th>
                }
                <th scope="col">share</th>
              </tr>
            </thead>
            <tbody>
              @for (row of rows(); track $index; let i = $index) {
                <tr>
                  <th scope="row">{{ row.name }}</th>
                  @if (edit() === 'stands') {
                    <td class="stands">
                      <mat-select
                        multiple
                        placeholder="nowhere"
                        [panelWidth]="280"
                        [aria-label]="'Where ' + row.name + ' stands'"
                        [value]="standsAt(row.standing)"
                        (selectionChange)="place(i, $event.value)"
                      >
                        <mat-select-trigger>{{ shortly(row.standing) }}</mat-select-trigger>
                        @for (place of places; track place) {
                          <mat-option [value]="place">{{ placeNames[place].long }}</mat-option>
                        }
                      </mat-select>
                    </td>
                    <td>
                      <fx-number
                        [label]="'Length of ' + row.name"
                        [value]="row.standing.length"
                        [min]="0"
                        [step]="0.05"
                        (committed)="change(i, { length: $event })"
                      />
                    </td>
                  }
                  <td>
                    <fx-number
                      [label]="'Share of ' + row.name"
                      [value]="row.standing.share"
                      [min]="0"
                      [step]="0.05"
                      (committed)="change(i, { share: $event })"
                    />
                  </td>
                </tr>
              }
            </tbody>
          </table>
        } @else {
          <span class="slate">A row for each object, once objects are wired.</span>
        }
      }
    }
    <ng-template #numbers let-own="own" let-called="called" let-which="which">
      @if (which !== null) {
        <p class="called">{{ called }}</p>
      }
      @for (part of planeParts; track part) {
        <div class="plane">
          <span>{{ part }}</span>
          @for (axis of ['x', 'y', 'z']; track axis; let i = $index) {
            <fx-number
              [axis]="axis"
              [label]="called + ' ' + part + ' ' + axis"
              [value]="own[part][i]"
              [step]="part === 'point' ? 0.01 : 0.005"
              (committed)="changePlane(which, part, i, [$event])"
              (pasted)="changePlane(which, part, i, $event)"
            />
          }
        </div>
      }
    </ng-template>
  `,
  styles: `
    .plane {
      display: grid;
      grid-template-columns: 46px repeat(3, minmax(0, 1fr));
      gap: 4px;
      align-items: center;
      margin-top: 4px;
    }
    .called {
      margin: 8px 0 0;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      font-size: 12.5px;
    }
    th {
      max-width: 110px;
      overflow: hidden;
      color: var(--slate);
      font-weight: 400;
      text-align: left;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    tbody th {
      color: inherit;
    }
    td fx-number {
      width: 58px;
    }
    td.stands {
      max-width: 110px;
      padding-right: 4px;
    }
    td.stands mat-select {
      height: 32px;
      padding: 0 4px 0 8px;
      border: 1px solid var(--tag-edge);
      border-radius: 6px;
      background: var(--card);
      font-size: inherit;
      line-height: 30px;
    }
  `,
})
export class DataField {
  private readonly documents = inject(DocumentService);
  readonly node = input.required<GraphNode>();
  readonly edit = input.required<DataEditor>();
  readonly label = input.required<string>();
  readonly value = input.required<unknown>();
  readonly committed = output<unknown>();

  protected readonly places = standingPlaces;
  protected readonly placeNames = placeNames;
  protected readonly planeParts = planeParts;
  protected readonly firstPlane = firstPlane;
  protected readonly plane = computed(() => (this.edit() === 'plane' ? (this.value() as MirrorPlane | null) : null));
  protected readonly drawnPlanes = computed(() => (this.edit() === 'planes' && Array.isArray(this.value()) ? (this.value() as readonly MirrorPlane[]) : []));
  protected readonly ruleCount = computed(() => String(this.value()).split('\n').filter((line) => /->|→/.test(line.replace(/#.*/, ''))).length); // prettier-ignore
  protected readonly count = computed(() => (Array.isArray(this.value()) ? (this.value() as unknown[]).length : 0));

  /** A row for each wire into the objects, in their order. */
  protected readonly rows = computed<readonly Row[]>(() => {
    const document = this.documents.document();
    const given = Array.isArray(this.value()) ? (this.value() as unknown[]) : [];
    return document.wires
      .filter(({ to }) => to[0] === this.node().id && to[1] === 'objects')
      .map(({ from }, i) => {
        const name = `${labelById(document, from[0])} (${from[0]})`;
        const own = this.edit() === 'shares' ? { share: given[i] ?? 1 } : given[i];
        return { name, standing: { ...usualStanding, ...(own as Partial<Standing>) } };
      });
  });

  protected commit(value: unknown): void {
    this.committed.emit(value);
  }

  /** Other numbers of a part of a plane, from one of its axes on; `which`: its number among those drawn, null: the only one. */
  protected changePlane(which: number | null, part: 'point' | 'normal', from: number, values: readonly number[]): void {
    const other = (own: MirrorPlane): MirrorPlane => ({ ...own, [part]: own[part].map((old, k) => values[k - from] ?? old) });
    if (which === null) this.commit(other(this.plane()!));
    else this.commit(this.drawnPlanes().map((own, i) => (i === which ? other(own) : own)));
  }

  protected standsAt(standing: Standing): StandingPlace[] {
    return standingPlaces.filter((place) => standing[place]);
  }

  protected shortly(standing: Standing): string {
    return this.standsAt(standing).map((place) => placeNames[place].short).join(', '); // prettier-ignore
  }

  protected place(row: number, chosen: readonly StandingPlace[]): void {
    this.change(row, Object.fromEntries(standingPlaces.map((place) => [place, chosen.includes(place)])));
  }

  protected change(row: number, part: Partial<Standing>): void {
    const rows = this.rows().map(({ standing }, i) => (i === row ? { ...standing, ...part } : standing));
    this.commit(this.edit() === 'shares' ? rows.map(({ share }) => share) : rows);
  }
}
