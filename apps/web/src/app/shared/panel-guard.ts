import {
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  DestroyRef,
  Directive,
  type EmbeddedViewRef,
  inject,
  input,
  type OnInit,
  output,
  TemplateRef,
  ViewContainerRef,
} from '@angular/core';
import { Faults } from './faults';
import { MatButtonModule } from '@angular/material/button';

/** What stands where a panel broke. */
@Component({
  selector: 'fx-broken-panel',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div class="broken" role="alert">
    <p>{{ name() }} cannot be shown: something in it went wrong. The rest goes on, and nothing is lost.</p>
    <button type="button" matButton="outlined" (click)="again.emit()">Show it again</button>
  </div>`,
  styles: `
    .broken {
      padding: 18px 24px;
      color: var(--madder);
    }
  `,
})
export class BrokenPanel {
  readonly name = input.required<string>();
  readonly again = output<void>();
}

/** Keeps a panel that throws from taking the screen along: `<fx-values *fxGuard="'The values'" />`. The panel is taken away, and a sentence stands in its place. */
@Directive({ selector: '[fxGuard]' })
export class PanelGuard implements OnInit {
  readonly fxGuard = input.required<string>();
  private readonly template = inject<TemplateRef<unknown>>(TemplateRef);
  private readonly container = inject(ViewContainerRef);
  private view: EmbeddedViewRef<unknown> | null = null;
  /** How the panel itself is looked at anew. */
  panel: ChangeDetectorRef | null = null;

  constructor() {
    const watching = inject(Faults).met.subscribe(() => queueMicrotask(() => this.probe()));
    inject(DestroyRef).onDestroy(() => watching.unsubscribe());
  }

  ngOnInit(): void {
    this.show();
  }

  private show(): void {
    this.container.clear();
    try {
      this.view = this.container.createEmbeddedView(this.template);
    } catch {
      this.break();
    }
  }

  /** Somewhere an error was met: whether it was here is seen by looking once more. */
  private probe(): void {
    if (!this.view || this.view.destroyed) return;
    try {
      this.panel?.detectChanges();
    } catch {
      this.break();
    }
  }

  private break(): void {
    this.view = this.panel = null;
    this.container.clear();
    const broken = this.container.createComponent(BrokenPanel);
    broken.setInput('name', this.fxGuard());
    broken.instance.again.subscribe(() => this.show());
    broken.changeDetectorRef.detectChanges();
  }
}

/** Makes a panel known to the guard that it stands in. */
@Directive({ selector: 'fx-checks, fx-dials, fx-history, fx-node-help, fx-path-strip, fx-settings, fx-values' })
export class GuardedPanel {
  constructor() {
    const guard = inject(PanelGuard, { optional: true });
    if (guard) guard.panel = inject(ChangeDetectorRef);
  }
}
