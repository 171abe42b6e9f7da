import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  applies,
  boundsOf,
  curvesBounds,
  Evaluator,
  knobsOf,
  nodeDefinitions,
  Plan,
  requireDocument,
  resultOf,
  settingFault,
  whyNoHandle,
  type Knob,
  type NodeDefinition,
  type Triple,
} from '../../src/index.js';

const scene = { middle: [1, 2, 3], arm: 0.5 } as const;
const handled = [...nodeDefinitions.values()].filter(({ handles }) => handles.length);

const defaults = ({ settings }: NodeDefinition): Record<string, unknown> =>
  Object.fromEntries(Object.entries(settings).map(([name, setting]) => [name, setting.default]));

const knobsWith = (type: string, change: object = {}): Map<string, Knob> => {
  const definition = nodeDefinitions.get(type)!;
  return new Map(knobsOf(definition.handles, definition.settings, { ...defaults(definition), ...change }, scene).map((knob) => [knob.id, knob]));
};

/** Numbers of a value that are three or one. */
const flat = (value: unknown): number[] => [value].flat() as number[];

const places = fc.tuple(...([0, 1, 2] as const).map(() => fc.double({ min: -50, max: 50, noNaN: true }))) as unknown as fc.Arbitrary<Triple>;

describe('handles', () => {
  test('name settings that there are, of kinds that they fit', () => {
    expect(handled.length).toBeGreaterThan(18);
    for (const { type, handles, settings } of handled)
      for (const { kind, setting, at = [] } of handles) {
        const kinds = {
          place: 'vector',
          direction: 'vector',
          extent: 'vector',
          factors: 'vector',
          turn: 'vector',
          length: 'number',
          angle: 'number',
          plane: 'data',
        };
        expect([type, setting, settings[setting]?.kind]).toEqual([type, setting, kinds[kind]]);
        for (const name of at) if (name !== 'middle') expect(settings[name]?.kind).toBe('vector');
      }
  });

  test.each(handled.map((definition) => [definition.type, definition] as const))(
    '%s: a knob left where it is changes nothing, and anywhere else gives a setting that is accepted',
    (_, definition) => {
      const values = defaults(definition);
      const knobs = knobsOf(definition.handles, definition.settings, values, scene);
      const shown = definition.handles.filter(({ setting }) => applies(definition.settings[setting], (name) => values[name]));
      if (shown.some(({ kind }) => kind !== 'direction')) expect(knobs.length).toBeGreaterThan(0);
      for (const knob of knobs) {
        const before = values[knob.setting];
        const [same, was] = [flat(knob.to(knob.at)), flat(before)];
        // Directions have the length of one afterwards.
        const size = knob.moves === 'aim' ? Math.hypot(...was) : 1;
        same.forEach((value, k) => expect(Math.abs(value - was[k] / size)).toBeLessThan(1e-4 * (1 + Math.abs(was[k]))));
        fc.assert(
          fc.property(places, (place) => {
            const value = knob.to(place);
            if (knob.moves === 'aim' && Math.hypot(...place.map((each, k) => each - knob.root[k])) < 1e-3) return;
            expect(settingFault(definition.settings[knob.setting], value, { ...values, [knob.setting]: value })).toBeNull();
          }),
          { numRuns: 30 },
        );
      }
    },
  );

  test('a plane of one’s own moves by its point and turns by its normal, and then the offset is not there', () => {
    expect([...knobsWith('shape.mirror').keys()]).toEqual(['offset']);
    const plane = { point: [1, 2, 3], normal: [0, 0, 2] };
    const knobs = knobsWith('shape.mirror', { plane });
    expect([...knobs.keys()]).toEqual(['plane', 'plane.normal']);
    expect(knobs.get('plane')!.to([4, 5, 6])).toEqual({ point: [4, 5, 6], normal: [0, 0, 2] });
    expect(knobs.get('plane.normal')!.at).toEqual([1, 2, 3 + 1.6 * scene.arm]);
    expect(knobs.get('plane.normal')!.to([1, 9, 3])).toEqual({ point: [1, 2, 3], normal: [0, 1, 0] });
  });

  test('knobs of lengths stand where the shape ends', async () => {
    const bounds = async (type: string, settings: object) => {
      const plan = new Plan(requireDocument({ format: 'filaxis-graph', version: 1, title: 'Handles', nodes: [{ id: 'a', type, settings }], wires: [] }));
      const { mesh, curves } = resultOf((await new Evaluator().run(plan)).nodes.get('a'));
      return mesh ? boundsOf(mesh.positions)! : curvesBounds(curves!)!;
    };
    for (const [type, settings, id, k] of [
      ['lay.box', { size: [1, 2, 3] }, 'size.y', 1],
      ['lay.box', { size: [1, 2, 3] }, 'size.z', 2],
      ['lay.grid', { size: [4, 6] }, 'size.x', 0],
      ['lay.sphere', { radius: 0.7, kind: 'rings' }, 'radius', 0],
      ['lay.cylinder', { radius: 0.4, height: 3 }, 'height', 1],
      ['lay.cylinder', { radius: 0.4, height: 3 }, 'radius', 0],
      ['lay.rectangle', { width: 3, height: 2 }, 'width', 0],
      ['lay.rectangle', { width: 3, height: 2 }, 'height', 1],
      ['lay.rectangle', { width: 3, height: 2, plane: 'YZ' }, 'width', 1],
      ['lay.polygon', { radius: 1.5 }, 'radius', 0],
      ['lay.circle', { radius: 1.25, centre: [1, 0, 0] }, 'radius', 0],
      ['lay.helix', { radius: 0.5, height: 2.5 }, 'height', 1],
    ] as const) {
      const knob = knobsWith(type, settings).get(id)!;
      expect([type, id, Number(knob.at[k].toFixed(4))]).toEqual([type, id, Number((await bounds(type, settings)).max[k].toFixed(4))]);
    }
  });

  test('what a knob is taken to is what its setting says', () => {
    expect(knobsWith('lay.line').get('to')!.to([3, 4, 5])).toEqual([3, 4, 5]);
    expect(knobsWith('lay.line').get('to.y')!.to([9, 4, 9])).toEqual([1, 4 - scene.arm, 0]);
    expect(knobsWith('lay.box').get('size.x')!.to([2, 7, 7])).toEqual([4, 1, 1]);
    expect(
      knobsWith('shape.transform', { pivot: [1, 0, 0] })
        .get('move')!
        .to([1, 2, 0]),
    ).toEqual([0, 2, 0]);
    // A quarter turn about y takes x to −z.
    const turn = knobsWith('shape.transform').get('turn.y')!;
    const [x, , z] = turn.at;
    expect((turn.to([z, 0, -x]) as number[])[1]).toBeCloseTo(90, 3);
    expect((turn.typed!(45) as number[])).toEqual([0, 45, 0]); // prettier-ignore
    expect(knobsWith('aim.frames', { method: 'upright' }).get('up')!.to([1, 2, 13])).toEqual([0, 0, 1]);
  });

  test('angles go on past a whole turn instead of jumping back', () => {
    const knob = knobsWith('lay.circle', { start: 350 }).get('start')!;
    const after = (30 * Math.PI) / 180;
    const [x, , z] = knob.at;
    // Seen against the y axis, x turns towards −z.
    expect(knob.to([x * Math.cos(after) + z * Math.sin(after), 0, z * Math.cos(after) - x * Math.sin(after)])).toBeCloseTo(380, 3);
  });

  test('every place, direction, length and angle of every node has one, or it is said why not', () => {
    const unsaid = [...nodeDefinitions.values()].flatMap((definition) => Object.keys(definition.settings).filter((name) => whyNoHandle(definition, name) === undefined).map((name) => `${definition.type} ${name}`)); // prettier-ignore
    expect(unsaid).toEqual([]);
    expect(whyNoHandle(nodeDefinitions.get('lay.circle')!, 'span')).toBeNull();
    expect(whyNoHandle(nodeDefinitions.get('pace.simplify')!, 'tolerance')).toContain('tolerance');
  });

  test('knobs about the same place stand apart: pivot and move, start and span; an upper radius is at the top', () => {
    const apart = (knobs: ReadonlyMap<string, Knob>): number => {
      const all = [...knobs.values()].map(({ at }) => at);
      return Math.min(...all.flatMap((a, i) => all.slice(i + 1).map((b) => Math.hypot(...a.map((value, k) => value - b[k])))));
    };
    for (const type of ['shape.transform', 'lay.circle']) expect(apart(knobsWith(type))).toBeGreaterThan(scene.arm * 0.1);
    expect(
      knobsWith('shape.transform')
        .get('pivot.x')!
        .to([2 - 0.6 * scene.arm, 0, 0]),
    ).toEqual([2, 0, 0]);
    const top = knobsWith('lay.cylinder', { radiusTop: 0.3, height: 4 }).get('radiusTop')!;
    expect([top.at, top.to([0.7, 2, 0])]).toEqual([[0.3, 2, 0], 0.7]);
    expect(knobsWith('lay.cylinder').has('radiusTop')).toBe(false);
  });

  test('there are none for settings that do not apply, vary or stand on a dial', () => {
    expect([...knobsWith('lay.line').keys()]).not.toContain('length');
    expect([...knobsWith('lay.line', { length: 2 }).keys()]).toEqual(expect.arrayContaining(['length', 'direction']));
    expect([...knobsWith('lay.line', { length: 2 }).keys()]).not.toContain('to');
    expect(knobsWith('lay.sphere', { radius: { dial: 'r' } }).size).toBe(0);
    expect([...knobsWith('shape.transform', { move: [{ dial: 'x' }, 0, 0] }).keys()]).toEqual(['pivot.x', 'pivot.y', 'pivot.z']);
  });
});
