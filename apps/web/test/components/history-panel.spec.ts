import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { describe, expect, test, vi } from 'vitest';
import type { FilaxisDocument } from '@filaxis/core';
import type { VersionInfo } from '@filaxis/protocol';
import { HistoryPanel } from '../../src/app/ropewalk/history/history-panel';
import { FakeServer } from '../services';
import { graph, mounted, point, press, typeInto, type Mounted } from './mounted';

const line = { id: 'line', type: 'lay.line' };
const made = (points: number): FilaxisDocument => graph([{ ...line, settings: { points } }]);
const info = (version: number, note: string | null = null): VersionInfo => ({
  version,
  title: 'Test',
  createdAt: '2026-01-02T10:00:00Z',
  note,
  pictured: false,
  faces: 12,
  points: 24,
});

/** A server that has three versions. */
class Shelf extends FakeServer {
  notes: [number, string][] = [];
  async versions(): Promise<VersionInfo[]> {
    return [info(3), info(2, 'before the storm'), info(1)];
  }
  async version$(version: number): Promise<{ document: FilaxisDocument }> {
    return { document: made(version * 10) };
  }
  async setNote(_: string, version: number, note: string): Promise<void> {
    this.notes.push([version, note]);
  }
}

async function panel(): Promise<Mounted<HistoryPanel> & { shelf: Shelf }> {
  const shelf = new Shelf();
  // The service has a method of the name that the fake keeps its number under.
  const server = new Proxy(shelf, { get: (target, name) => (name === 'version' ? (_: string, version: number) => target.version$(version) : Reflect.get(target, name)) }); // prettier-ignore
  const mount = await mounted(HistoryPanel, { document: made(30), server: server as unknown as Shelf });
  mount.documents.id.set('d1');
  mount.documents.version.set(3);
  await mount.settle();
  await mount.settle();
  return { ...mount, shelf };
}
const rows = ({ host }: Mounted<unknown>): string[] => [...host.querySelectorAll('.version')].map(({ textContent }) => textContent!.trim());
const open = async (mount: Mounted<unknown>, which: number): Promise<void> => {
  mount.host.querySelectorAll<HTMLButtonElement>('.row')[which].click();
  await mount.settle();
  await mount.settle();
};

describe('versions', () => {
  test('are listed, and those with a note alone where asked', async () => {
    const mount = await panel();
    expect(rows(mount)).toEqual(['version 3, now', 'version 2', 'version 1']);
    await (await mount.loader.getHarness(MatCheckboxHarness)).check();
    expect(rows(mount)).toEqual(['version 3, now', 'version 2']);
  });

  test('tell what each changed, and what has changed since', async () => {
    const mount = await panel();
    await open(mount, 1);
    const [by, since] = [...mount.host.querySelectorAll('.lists > div')].map((list) =>
      [...list.querySelectorAll('li')].map(({ textContent }) => textContent!.trim()),
    );
    expect(by).toEqual(['Line, points: 10 → 20.']);
    expect(since).toEqual(['Line, points: 20 → 30.']);
    await open(mount, 1);
    expect(mount.host.querySelector('.detail')).toBeNull();
  });

  test('come back as a change that can be undone', async () => {
    const mount = await panel();
    await open(mount, 2);
    [...mount.host.querySelectorAll('button')].find(({ textContent }) => textContent!.includes('Restore version 1'))!.click();
    await vi.waitFor(() => expect(mount.documents.undoLabel()).toBe('Restore version 1'));
    expect(mount.documents.document().nodes[0].settings).toEqual({ points: 10 });
    mount.documents.undo();
    expect(mount.documents.document().nodes[0].settings).toEqual({ points: 30 });
  });

  test('are seen while a button is held, by pointer and by key, and nothing is changed by it', async () => {
    const mount = await panel();
    await open(mount, 2);
    const button = [...mount.host.querySelectorAll('button')].find(({ textContent }) => textContent!.includes('Hold to see it'))!;
    const points = (): unknown => mount.documents.document().nodes[0].settings;
    point(button, 'pointerdown', 1, 1);
    expect([points(), mount.documents.lookingBack()]).toEqual([{ points: 10 }, 'Version 1']);
    point(button, 'pointerup', 1, 1);
    expect([points(), mount.documents.lookingBack(), mount.documents.undoLabel()]).toEqual([{ points: 30 }, null, null]);
    press(button, 'a');
    expect(points()).toEqual({ points: 30 });
    press(button, ' ');
    expect(points()).toEqual({ points: 10 });
    button.dispatchEvent(new Event('blur'));
    expect(points()).toEqual({ points: 30 });
  });

  test('get a note', async () => {
    const mount = await panel();
    await open(mount, 0);
    typeInto(mount.host.querySelector<HTMLInputElement>('fx-text input')!, 'for the fleet');
    await vi.waitFor(() => expect(mount.shelf.notes).toEqual([[3, 'for the fleet']]));
  });
});
