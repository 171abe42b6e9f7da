import type { HarnessLoader } from '@angular/cdk/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import type { Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { vi } from 'vitest';
import { requireDocument, type FilaxisDocument, type GraphNode, type Wire } from '@filaxis/core';
import { provideIcons } from '../../src/app/shared/icons';
import { ApiService } from '../../src/app/shared/api.service';
import { ChecksService } from '../../src/app/ropewalk/checks/checks.service';
import { ContextMenu } from '../../src/app/ropewalk/context-menu';
import { DocumentService } from '../../src/app/ropewalk/document/document.service';
import { EditingService } from '../../src/app/ropewalk/document/editing.service';
import { EvaluationService } from '../../src/app/ropewalk/evaluation.service';
import { Learning } from '../../src/app/ropewalk/lessons/learning';
import { Moment } from '../../src/app/ropewalk/timeline/moment';
import { Player } from '../../src/app/ropewalk/timeline/player';
import type { FromWorker } from '@filaxis/protocol';
import { FakeServer, FakeWorker } from '../services';

/** A component as it stands in the page, with real services, a server of one document and a worker for the test to play. */
export interface Mounted<T> {
  readonly fixture: ComponentFixture<T>;
  readonly component: T;
  readonly host: HTMLElement;
  readonly loader: HarnessLoader;
  /** Finds what hangs over the page: menus, lists. */
  readonly overlays: HarnessLoader;
  readonly documents: DocumentService;
  readonly evaluation: EvaluationService;
  readonly server: FakeServer;
  readonly worker: FakeWorker;
  /** Waits until all is drawn. */
  settle(): Promise<void>;
}

export const graph = (nodes: readonly GraphNode[], wires: readonly Wire[] = [], more: Partial<FilaxisDocument> = {}): FilaxisDocument =>
  requireDocument({ format: 'filaxis-graph', version: 1, title: 'Test', nodes, wires, ...more });

export async function mounted<T>(
  component: Type<T>,
  {
    document = graph([]),
    inputs = {},
    server = new FakeServer(),
    more = [],
  }: { document?: FilaxisDocument; inputs?: Record<string, unknown>; server?: FakeServer; more?: unknown[] } = {},
): Promise<Mounted<T>> {
  // Each has a page of its own.
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      DocumentService,
      EvaluationService,
      EditingService,
      ChecksService,
      ContextMenu,
      Learning,
      Moment,
      Player,
      provideRouter([]),
      provideIcons(),
      { provide: ApiService, useValue: server },
      ...more,
    ],
  });
  const documents = TestBed.inject(DocumentService);
  documents.openLoose(document);
  const evaluation = TestBed.inject(EvaluationService);
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  const settle = async (): Promise<void> => {
    fixture.detectChanges();
    await fixture.whenStable();
    // What was answered meanwhile is drawn too.
    await new Promise((done) => setTimeout(done));
    fixture.detectChanges();
  };
  await settle();
  return {
    fixture,
    component: fixture.componentInstance,
    host: fixture.nativeElement as HTMLElement,
    loader: TestbedHarnessEnvironment.loader(fixture),
    overlays: TestbedHarnessEnvironment.documentRootLoader(fixture),
    documents,
    evaluation,
    server,
    worker: FakeWorker.newest,
    settle,
  };
}

/** What an output told, in order. */
export function heard<V>(output: { subscribe(told: (value: V) => void): unknown }): V[] {
  const all: V[] = [];
  output.subscribe((value) => all.push(value));
  return all;
}

/** Types into a field as a hand does: focus, letters, and the end of it. */
export function typeInto(box: HTMLInputElement, text: string): void {
  box.focus();
  box.value = text;
  box.dispatchEvent(new Event('input', { bubbles: true }));
  box.dispatchEvent(new Event('change', { bubbles: true }));
}

export const press = (target: EventTarget, key: string, more: KeyboardEventInit = {}): KeyboardEvent => {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more });
  target.dispatchEvent(event);
  return event;
};

export const point = (
  target: EventTarget,
  type: 'pointerdown' | 'pointermove' | 'pointerup' | 'pointercancel',
  x: number,
  y: number,
  more: PointerEventInit = {},
): void => {
  target.dispatchEvent(new PointerEvent(type, { clientX: x, clientY: y, bubbles: true, cancelable: true, pointerId: 1, ...more }));
};

/** Answers the newest question on a topic, and tells what was asked. */
export function answer(worker: FakeWorker, topic: string, given: unknown): unknown {
  const asked = worker.heard('ask').findLast((each) => each.topic === topic);
  if (!asked) throw new Error(`Nobody asked for ${topic}.`);
  worker.say({ kind: 'answer', request: asked.request, answer: given } as FromWorker);
  return asked.question;
}
export const refuse = (worker: FakeWorker, topic: string, message: string): void => {
  const asked = worker.heard('ask').findLast((each) => each.topic === topic)!;
  worker.say({ kind: 'no-answer', request: asked.request, message } as FromWorker);
};

/** Takes a step with another clipboard. */
export async function withClipboard(clipboard: Partial<Clipboard>, step: () => Promise<void>): Promise<void> {
  const before = navigator;
  vi.stubGlobal('navigator', { clipboard });
  await step();
  vi.stubGlobal('navigator', before);
}
