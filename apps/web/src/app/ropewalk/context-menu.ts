import { ApplicationRef, ChangeDetectionStrategy, Component, Injectable, inject, signal, viewChild } from '@angular/core';
import { MatMenuModule, MatMenuTrigger } from '@angular/material/menu';
import type { Action } from './actions';

/** A menu at a place of the window, for what was pressed there. */
@Injectable()
export class ContextMenu {
  private readonly application = inject(ApplicationRef);
  readonly asked = signal<{ readonly at: { readonly x: number; readonly y: number }; readonly actions: readonly Action[] } | null>(null);

  open(at: { readonly x: number; readonly y: number }, actions: readonly Action[]): void {
    this.asked.set({ at, actions });
    // The trigger stands at the place, and the menu has the keyboard, before the next key comes.
    this.application.tick();
    this.show?.();
    this.application.tick();
  }

  /** Set by the element that shows it. */
  show: (() => void) | null = null;
}

/** Where context menus open; one a page. */
@Component({
  selector: 'fx-context-menu',
  imports: [MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      class="at"
      tabindex="-1"
      aria-label="Menu of what was pressed"
      [style.left.px]="menu.asked()?.at?.x ?? 0"
      [style.top.px]="menu.asked()?.at?.y ?? 0"
      [matMenuTriggerFor]="list"
    ></button>
    <mat-menu #list="matMenu" class="fx-actions">
      @for (action of menu.asked()?.actions ?? []; track action.name) {
        <button mat-menu-item [disabled]="action.off" [title]="action.detail ?? ''" (click)="action.run()">
          {{ action.name }} <kbd>{{ action.shortcut }}</kbd>
        </button>
      } @empty {
        <span mat-menu-item disabled>Nothing can be done here.</span>
      }
    </mat-menu>
  `,
  styles: `
    .at {
      position: fixed;
      width: 1px;
      height: 1px;
      padding: 0;
      border: 0;
      background: none;
      pointer-events: none;
    }
  `,
})
export class ContextMenuPlace {
  protected readonly menu = inject(ContextMenu);
  private readonly trigger = viewChild.required(MatMenuTrigger);

  constructor() {
    this.menu.show = () => {
      this.trigger().updatePosition();
      this.trigger().openMenu();
    };
  }
}
