import { describe, expect, test } from 'vitest';
import {
  allFindings,
  checkDocument,
  Evaluator,
  Plan,
  requireDocument,
  scaled,
  type CheckKind,
  type Curves,
  type FilaxisDocument,
  type Finding,
} from '@filaxis/core';
import { remedied } from '../src/app/ropewalk/checks/remedies';

type Step = readonly [type: string, settings?: Readonly<Record<string, unknown>>];

/** A document of nodes one after the other, n0 to n1 and so on, by their first ports. */
function row(steps: readonly Step[], ports: readonly (readonly [string, string])[], dials: FilaxisDocument['dials'] = []): FilaxisDocument {
  return requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Row',
    dials,
    nodes: steps.map(([type, settings = {}], i) => ({ id: `n${i}`, type, settings })),
    wires: ports.map(([from, to], i) => ({ from: [`n${i}`, from], to: [`n${i + 1}`, to] })),
  });
}

async function look(document: FilaxisDocument): Promise<Finding[]> {
  const plan = new Plan(document);
  return allFindings(plan, await new Evaluator().run(plan));
}

/** Finds something of a kind and mends it by its button until it is gone, at most so often. */
async function mended(document: FilaxisDocument, kind: CheckKind, most = 1): Promise<FilaxisDocument> {
  let found = (await look(document)).filter((finding) => finding.kind === kind);
  expect(found.length).toBeGreaterThan(0);
  for (let times = 0; times < most && found.length; times++) {
    const [{ remedies }] = found;
    expect(remedies).not.toEqual([]);
    document = requireDocument(remedied(document, remedies[0]));
    expect(checkDocument(document)).toEqual([]);
    found = (await look(document)).filter((finding) => finding.kind === kind);
  }
  expect(found).toEqual([]);
  return document;
}

const straight = (points: readonly (readonly number[])[]): Step => ['lay.drawn', { kind: 'straight', curves: [{ points }] }];

/** A rope through a pile, and what finds it. */
const pile = requireDocument({
  format: 'filaxis-graph',
  version: 1,
  title: 'Pile',
  nodes: [
    { id: 'rope', type: 'lay.line', settings: { from: [-1, 0.3, 0.02], to: [1, 0.3, 0.02], points: 2 } },
    { id: 'pile', type: 'lay.cylinder', settings: { radius: 0.2, height: 1, sides: 48 } },
    { id: 'gauge', type: 'gauge.clearance', settings: { radius: 0.02 } },
    { id: 'skin', type: 'skin.tube', settings: { radius: 0.02, caps: 'flat' } },
  ],
  wires: [
    { from: ['rope', 'curves'], to: ['gauge', 'any'] },
    { from: ['pile', 'mesh'], to: ['gauge', 'body'] },
    { from: ['gauge', 'any'], to: ['skin', 'curves'] },
  ],
});

describe('each button mends what it stands beside', () => {
  test('a pinch, by thinning there', async () => {
    const made = await mended(row([['lay.circle', { radius: 0.2, points: 48 }], ['skin.tube', { radius: 0.3 }]], [['curves', 'curves']]), 'pinch'); // prettier-ignore
    expect(made.nodes[1].settings).toMatchObject({ relaxPinch: true });
  });

  test('a skin through itself, by thinning all of it', async () => {
    const helix = row([['lay.helix', { radius: 1, height: 1, turns: 4 }], ['skin.tube', { radius: 0.15 }]], [['curves', 'curves']]); // prettier-ignore
    const made = await mended(helix, 'self-cross', 3);
    expect(made.nodes[1].settings!['radius']).toBeLessThan(0.125);
  });

  test('frames that flip, by least turning', async () => {
    await mended(row([['lay.line', { to: [0, 2, 0], points: 4 }], ['aim.frames', { method: 'upright' }]], [['curves', 'curves']]), 'flip'); // prettier-ignore
  });

  test('faces that look inwards', async () => {
    const document = row([['lay.line'], ['skin.tube', { caps: 'flat' }], ['mesh.normals', { flip: true }]], [['curves', 'curves'], ['mesh', 'mesh']]); // prettier-ignore
    await mended(document, 'inside-out');
  });

  test('open ends', async () => {
    await mended(row([['lay.line'], ['skin.tube']], [['curves', 'curves']]), 'hole'); // prettier-ignore
  });

  test('points on points, by a weld after the node that left them', async () => {
    const document = row(
      [['lay.rectangle'], ['skin.fill'], ['shape.row', { count: 3, step: [1, 0, 0] }]],
      [['curves', 'curves'], ['mesh', 'any']],
    ); // prettier-ignore
    const made = await mended(document, 'double');
    expect(made.nodes[3]).toMatchObject({ type: 'mesh.weld', settings: { distance: 0 } });
  });

  test('stretched UVs, by laying the walls out anew in tiles as large as before', async () => {
    const points = [0, 0.5, 1, 1.02, 1.5, 2].map((x) => [x, 0, 0]);
    const radius = { ramp: [[0, 0.02], [0.5, 0.02], [0.51, 0.2], [1, 0.2]] }; // prettier-ignore
    const made = await mended(row([straight(points), ['skin.tube', { radius, uvScale: 0.1, caps: 'flat' }]], [['curves', 'curves']]), 'stretch'); // prettier-ignore
    expect(made.nodes[2]).toMatchObject({ type: 'mesh.uv', settings: { layout: 'box', of: 'walls', tile: 0.1 } });
  });

  test('a budget that is passed', async () => {
    const document = row([['lay.line'], ['skin.tube', { sides: 32, caps: 'flat' }], ['flow.output', { budget: 60 }]], [['curves', 'curves'], ['mesh', 'any']]); // prettier-ignore
    await mended(document, 'budget', 2);
  });

  describe('a rope through a pile', () => {
    test.each(['Drop the curves that pass through', 'Lead them round', 'Push them out'])('%s', async (label) => {
      const [found] = (await look(pile)).filter(({ node }) => node === 'gauge');
      expect(found).toMatchObject({ level: 'wrong', node: 'gauge', message: expect.stringContaining('into the body') as unknown });
      const document = requireDocument(
        remedied(
          pile,
          found.remedies.find((each) => each.label === label)!,
        ),
      );
      expect(checkDocument(document)).toEqual([]);
      const plan = new Plan(document);
      const run = await new Evaluator().run(plan);
      expect(allFindings(plan, run).filter(({ node }) => node === 'gauge')).toEqual([]);
      const left = run.nodes.get('gauge')!.outputs['any'] as Curves;
      if (label.startsWith('Drop')) return expect(left.closed).toHaveLength(0);
      // Still from end to end, and round the pile: no middle of the rope nearer to its axis than the radii of both.
      const places = Array.from({ length: left.positions.length / 3 }, (_, i) => [...left.positions.subarray(i * 3, i * 3 + 3)]);
      expect([places[0], places.at(-1)!].map(([x]) => x)).toEqual([-1, 1]);
      expect(Math.min(...places.map(([x, , z]) => Math.hypot(x, z)))).toBeGreaterThan(0.2 * Math.cos(Math.PI / 48) + 0.02 - 1e-4);
    });
  });

  test('a clearance that cannot be told from a radius that varies is not guessed', async () => {
    const nodes = pile.nodes.map((node) => (node.id === 'gauge' ? { ...node, settings: { radius: { formula: '0.02 + 0.01 * t' } } } : node));
    const [found] = (await look(requireDocument({ ...pile, nodes }))).filter(({ node }) => node === 'gauge');
    expect(found.remedies.map(({ label }) => label)).toEqual(['Drop the curves that pass through']);
  });

  test('unequal lists', async () => {
    const lists = requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'Lists',
      nodes: [
        { id: 'a', type: 'lay.circle', settings: { points: 4 } },
        { id: 'b', type: 'lay.circle', settings: { points: 5, radius: 2, centre: [0, 1, 0] } },
        { id: 'c', type: 'lay.circle', settings: { points: 5, radius: 1, centre: [0, 2, 0] } },
        { id: 'arcs', type: 'lay.arc3' },
      ],
      wires: ['a', 'b', 'c'].map((id) => ({ from: [id, 'curves'], to: ['arcs', id] })),
    });
    await mended(lists, 'unequal');
  });

  test('a wrong value, by its default', async () => {
    await mended(row([['lay.line'], ['skin.tube', { caps: 'flat', radius: { formula: '1/(i-1)' } }]], [['curves', 'curves']]), 'error'); // prettier-ignore
  });
});

test('a value is thinned in the mode it is in; a dial’s by a formula, since others may follow the dial', async () => {
  expect(scaled(0.5, 0.8)).toBe(0.4);
  expect(scaled([1, 2], 0.5)).toEqual([0.5, 1]);
  expect(scaled({ dial: 'bore' }, 0.8)).toEqual({ formula: '0.8*bore' });
  // Names that formulas cannot read, or read as something else.
  for (const dial of ['pipe-bore', 'sin', 't', 'time']) expect(scaled({ dial }, 0.8)).toBeUndefined();
  expect(scaled({ formula: '1 + t' }, 0.8)).toEqual({ formula: '0.8*(1 + t)' });
  expect(scaled({ ramp: [[0, 1], [1, 2]], ease: 'smooth' }, 0.5)).toEqual({ ramp: [[0, 0.5], [1, 1]], ease: 'smooth' }); // prettier-ignore
  expect(scaled({ random: [1, 2], seed: 3 }, 0.5)).toEqual({ random: [0.5, 1], seed: 3 });
  expect(scaled({ attribute: 'width', offset: 2 }, 0.5)).toEqual({ attribute: 'width', scale: 0.5, offset: 1 });
  expect(scaled('wide', 0.5)).toBeUndefined();
});

test('values that are not finite are found where they come from, and 0 put in their place', async () => {
  // Nodes refuse to write what is not finite; what a file or a faulty node brings is put in here by hand.
  const points = [[0, 0, 0], [1, 0, 0]]; // prettier-ignore
  const document = row([straight(points), ['gauge.set', { name: 'share', value: 1 }]], [['curves', 'any']]);
  const plan = new Plan(document);
  const run = await new Evaluator().run(plan);
  const made = run.nodes.get('n1')!.outputs['any'];
  if (made.type !== 'curves') throw new Error('no curves');
  made.attributes.get('share')!.data[1] = NaN;
  const [finding] = allFindings(plan, run);
  expect(finding).toMatchObject({ kind: 'not-finite', node: 'n1', message: '1 of 2 numbers of "share" are not finite.' });
  const mend = remedied(document, finding.remedies[0]);
  expect(mend.nodes[2]).toMatchObject({
    type: 'gauge.set',
    settings: { name: 'share', carrier: 'points', value: { formula: 'abs(share) < 1e30 ? share : 0' } },
  });
  expect(checkDocument(requireDocument(mend))).toEqual([]);
});
