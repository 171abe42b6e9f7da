import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { expect, test, vi } from 'vitest';
import { Faults } from '../../src/app/shared/faults';
import { GuardedPanel, PanelGuard } from '../../src/app/shared/panel-guard';
import { ApiService } from '../../src/app/shared/api.service';

/** Whether the panel throws, when it is made and when it is drawn. */
const fails = { made: false, drawn: signal(false) };

@Component({ selector: 'fx-values', changeDetection: ChangeDetectionStrategy.OnPush, hostDirectives: [], template: '<p class="panel">{{ text() }}</p>' })
class Panel {
  constructor() {
    if (fails.made) throw new Error('made wrong');
  }
  protected text(): string {
    if (fails.drawn()) throw new Error('drawn wrong');
    return 'values';
  }
}

@Component({
  selector: 'fx-page',
  imports: [GuardedPanel, Panel, PanelGuard],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<p class="rest">the rest</p>
    <fx-values *fxGuard="'The values'" />`,
})
class Page {
  readonly faults = inject(Faults);
}

async function page(): Promise<{ text: () => string; fault: (error: Error) => Promise<void>; again: () => Promise<void> }> {
  TestBed.configureTestingModule({ providers: [{ provide: ApiService, useValue: { report: () => Promise.resolve() } }] });
  const fixture = TestBed.createComponent(Page);
  fixture.detectChanges();
  await fixture.whenStable();
  const host = fixture.nativeElement as HTMLElement;
  const settle = (): Promise<void> => new Promise((done) => setTimeout(done));
  return {
    text: () => [...host.querySelectorAll('p, button')].map(({ textContent }) => textContent.trim()).join(' '),
    fault: async (error) => {
      fixture.componentInstance.faults.handleError(error);
      await settle();
    },
    again: async () => {
      host.querySelector('button')!.click();
      await settle();
      fixture.detectChanges();
    },
  };
}

test('a panel that throws while it is drawn is taken away and told by its name; the rest stays, and it can be shown again', async () => {
  vi.spyOn(console, 'error').mockReturnValue();
  const { text, fault, again } = await page();
  expect(text()).toBe('the rest values');
  // An error elsewhere takes nothing away.
  await fault(new Error('elsewhere'));
  expect(text()).toBe('the rest values');
  fails.drawn.set(true);
  await fault(new Error('drawn wrong'));
  expect(text()).toBe('the rest The values cannot be shown: something in it went wrong. The rest goes on, and nothing is lost. Show it again');
  fails.drawn.set(false);
  await again();
  expect(text()).toBe('the rest values');
});

test('one that cannot even be made is told in the same way', async () => {
  vi.spyOn(console, 'error').mockReturnValue();
  fails.made = true;
  const { text, again } = await page();
  expect(text()).toContain('The values cannot be shown');
  await again();
  expect(text()).toContain('The values cannot be shown');
  fails.made = false;
  await again();
  expect(text()).toBe('the rest values');
});
