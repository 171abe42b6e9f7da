import { expect, test } from 'vitest';
import { chaos } from './chaos.js';

test('fifty kills of the server and of its database while eight clients save: nothing is lost or saved twice, and nobody starts anything by hand', async () => {
  const counts = await chaos({ kills: 50, clients: 8, seed: 20261126, name: 'pg-chaos-unit' });
  expect(counts.odd).toEqual([]);
  expect(counts.kills.server + counts.kills.database).toBe(50);
  expect(counts).toMatchObject({ lost: 0, doubled: 0 });
  expect(counts.acknowledged).toBeGreaterThan(16);
  expect(counts.askedAgain).toBeGreaterThan(0);
}, 400_000);
