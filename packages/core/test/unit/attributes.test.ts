import { describe, expect, test } from 'vitest';
import { nodeDefinitions, type Carrier, type Geometry, type GeometryKind, type NodeDefinition } from '../../src/index.js';
import { runGraph } from '../graph.js';

type Nodes = Record<string, readonly [type: string, settings?: Readonly<Record<string, unknown>>]>;

/** Three curves, a tube along them, their points, and copies of the tube: each carrying one attribute of its own on every carrier it has. */
const world: Nodes = {
  drawn: ['lay.drawn', { curves: [0, 2, 4].map((y) => ({ points: [[0, y, 0], [1, y + 0.2, 0], [2, y, 1], [3, y, 0]] })) }],
  frames: ['aim.frames', {}],
  onPoints: ['gauge.set', { name: 'ofPoint', value: 1 }],
  onCurves: ['gauge.set', { name: 'ofCurve', carrier: 'curves', value: 1 }],
  curves: ['gauge.set', { name: 'ofWhole', carrier: 'whole', value: 1 }],
  points: ['pace.points', {}],
  tube: ['skin.tube', { radius: 0.05 }],
  onCorners: ['gauge.set', { name: 'ofCorner', carrier: 'corners', value: 1 }],
  onFaces: ['gauge.set', { name: 'ofFace', carrier: 'faces', value: 1 }],
  mesh: ['gauge.set', { name: 'ofWhole', carrier: 'whole', value: 1 }],
  box: ['lay.box', {}],
  onBoxCorners: ['gauge.set', { name: 'ofCorner', carrier: 'corners', value: 1 }],
  onBoxFaces: ['gauge.set', { name: 'ofFace', carrier: 'faces', value: 1 }],
  body: ['gauge.set', { name: 'ofWhole', carrier: 'whole', value: 1 }],
  placed: ['place.copies', {}],
  copies: ['gauge.set', { name: 'ofCopy', carrier: 'copies', value: 1 }],
}; // prettier-ignore
const wires = [
  'drawn.curves > frames.curves', 'frames.curves > onPoints.any', 'onPoints.any > onCurves.any', 'onCurves.any > curves.any', 'curves.any > points.curves',
  'curves.any > tube.curves', 'tube.mesh > onCorners.any', 'onCorners.any > onFaces.any', 'onFaces.any > mesh.any', 'mesh.any > placed.objects',
  'box.mesh > onBoxCorners.any', 'onBoxCorners.any > onBoxFaces.any', 'onBoxFaces.any > body.any', 'curves.any > placed.curves', 'placed.copies > copies.any',
]; // prettier-ignore
const ends: Readonly<Record<GeometryKind, string>> = { curves: 'curves.any', points: 'points.points', mesh: 'mesh.any', copies: 'copies.any' };
/** Nodes that take closed bodies alone. */
const endOf = (type: string, kind: GeometryKind): string => (type === 'mesh.solid' ? 'body.any' : ends[kind]);
const carried: Readonly<Record<Carrier, string>> = { point: 'ofPoint', curve: 'ofCurve', corner: 'ofCorner', face: 'ofFace', copy: 'ofCopy', whole: 'ofWhole' };

/** Settings without which a node refuses what the world gives it. */
const settingsFor: Readonly<Record<string, (kind: GeometryKind) => Readonly<Record<string, unknown>>>> = {
  'gauge.carry': (kind) => ({ attribute: 'ofWhole', to: 'whole', ...(kind === 'copies' && { attribute: 'ofCopy' }) }),
  'gauge.summary': (kind) => ({ attribute: kind === 'copies' ? 'ofCopy' : 'ofWhole' }),
  'gauge.clearance': () => ({ eachOther: true }),
  'mesh.keep': () => ({ by: 'condition' }),
  'grow.routes': () => ({ begin: { formula: 'x < 0.1' } }),
  'mesh.mark': () => ({ by: 'chance' }),
  'gauge.transfer': () => ({ attribute: 'ofPoint' }),
  'gauge.set': (kind) => ({ carrier: kind === 'copies' ? 'copies' : 'points' }),
};

/** Inputs that may be left out for another one, without which nothing is made. */
const waitsFor: Readonly<Record<string, string>> = { 'place.loops': 'points' };

const takes = (definition: NodeDefinition, kind: GeometryKind): boolean => definition.inputs[0].kinds.some((each) => each === kind || each === 'any');

async function result(definition: NodeDefinition, kind: GeometryKind): Promise<{ given: Geometry; made: Geometry }> {
  const settings = settingsFor[definition.type]?.(kind) ?? {};
  const others = definition.inputs.slice(1).filter(({ optional, name }) => !optional || waitsFor[definition.type] === name);
  const toOthers = others.map(
    ({ name, kinds }) => `${kinds.includes('curves') || kinds.includes('any') ? ends.curves : kinds.includes('mesh') ? ends.mesh : ends.curves} > it.${name}`,
  );
  const { results } = await runGraph({ ...world, it: [definition.type, settings] }, [
    ...wires,
    `${endOf(definition.type, kind)} > it.${definition.inputs[0].name}`,
    ...toOthers,
  ]);
  const { outputs, error } = results['it'];
  if (error) throw new Error(error.message);
  const [node, port] = endOf(definition.type, kind).split('.');
  return { given: results[node].outputs[port] as Geometry, made: Object.values(outputs).find((value) => 'attributes' in value) as Geometry };
}

/** Pairs that a node refuses by design. */
const refused = new Set(['grow.reveal points', 'grow.reveal copies', 'shape.displace copies', 'gauge.transfer copies', 'gauge.clearance mesh']);

describe('every node does with attributes what it states', () => {
  for (const definition of nodeDefinitions.values()) {
    if (!definition.inputs.length || definition.type === 'flow.output') continue;
    for (const kind of ['curves', 'points', 'mesh', 'copies'] as const) {
      if (!takes(definition, kind) || refused.has(`${definition.type} ${kind}`)) continue;
      test(`${definition.type} given ${kind}`, async () => {
        const { given, made } = await result(definition, kind);
        const { keeps, drops, writes } = definition.attributes;
        for (const [carrier, name] of Object.entries(carried) as [Carrier, string][]) {
          const attribute = given.attributes.get(name);
          // Copies have the values of the points they stand on as their own.
          if (attribute?.carrier !== carrier) continue;
          expect([name, made.attributes.has(name)]).toEqual([name, keeps.includes(carrier)]);
        }
        // What is void concerns how curves run.
        if (kind === 'curves') for (const name of drops) expect([name, made.attributes.has(name)]).toEqual([name, false]);
        // Meshes have no points of their own to write axes to; copies are written to in their objects.
        if (definition.type === 'aim.axes' && kind === 'mesh') return;
        for (const name of writes) if (given.type !== 'copies' && made.type !== 'copies') expect([name, made.attributes.has(name)]).toEqual([name, true]);
      });
    }
  }
});

test('values along a tube’s path stand at the vertices of their rings, caps and seams with them', async () => {
  const { results } = await runGraph(
    {
      line: ['lay.line', { to: [4, 0, 0], points: 5 }],
      set: ['gauge.set', { name: 'wear', value: { formula: 's*10' } }],
      tube: ['skin.tube', { sides: 6, caps: 'domed' }],
    },
    ['line.curves > set.any', 'set.any > tube.curves'],
  );
  const mesh = results['tube'].outputs['mesh'];
  if (mesh.type !== 'mesh') throw new Error('no mesh');
  const wear = mesh.attributes.get('wear')!;
  expect(wear.carrier).toBe('corner');
  // Of the wall each vertex has ten times its x; the domes beyond have that of their end.
  for (let v = 0; v < wear.data.length; v++) expect(wear.data[v]).toBeCloseTo(10 * Math.min(4, Math.max(0, mesh.positions[v * 3])), 4);
});
