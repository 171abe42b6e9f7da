import type { Geometry, GeometryKind, GeometrySet } from '../geometry/geometry.js';
import { joinGeometries } from '../geometry/join.js';
import { triangleCount } from '../geometry/mesh.js';
import { defineNode } from '../graph/define.js';
import type { Claimed } from '../graph/work.js';
import { families } from './families.js';

/** The geometries by kind, each kind's in the order given. */
function byKind(list: readonly Geometry[]): Map<GeometryKind, Geometry[]> {
  const groups = new Map<GeometryKind, Geometry[]>();
  for (const geometry of list) groups.set(geometry.type, [...(groups.get(geometry.type) ?? []), geometry]);
  return groups;
}

function totalOf(list: readonly Geometry[]): Claimed {
  const total = { points: 0, vertices: 0, faces: 0 };
  for (const geometry of list) {
    if (geometry.type === 'mesh') {
      total.vertices += geometry.pointCount;
      total.faces += triangleCount(geometry);
    } else if (geometry.type !== 'copies') total.points += geometry.positions.length / 3;
  }
  return total;
}

const join = defineNode({
  type: 'flow.join',
  label: 'Join',
  family: families.flow,
  summary: 'Puts several inputs of one kind together.',
  help: 'Joins curves with curves, meshes with meshes. The order is that of the wires, listed in the settings, and can be changed there. Values that only some of the inputs have are filled with 0 elsewhere.',
  attributes: { keeps: ['point', 'curve', 'corner', 'face', 'copy', 'whole'] },
  keywords: ['merge', 'combine', 'append', 'collect', 'add'],
  inputs: [{ name: 'any', kinds: ['any'], many: true }],
  outputs: [{ name: 'any', kind: 'any' }],
  settings: {},
  run: ({ inputs, claim }) => {
    const list = inputs('any');
    const kinds = [...byKind(list).keys()];
    if (kinds.length > 1) throw new RangeError(`Join got ${kinds.join(' and ')}; it joins inputs of one kind. Wire them to the Output one by one instead.`);
    claim(totalOf(list));
    return { any: joinGeometries(list) };
  },
});

const output = defineNode({
  type: 'flow.output',
  label: 'Output',
  family: families.flow,
  summary: 'A named result of the document: what is shown and exported.',
  help: 'Whatever is wired here is a result, under its name. A document may have several outputs. A budget above 0 warns when there are more faces.',
  keywords: ['result', 'export', 'end', 'deliver', 'budget'],
  inputs: [{ name: 'any', kinds: ['any'], many: true }],
  outputs: [],
  settings: {
    name: {
      kind: 'text',
      label: 'Name',
      help: 'The result’s name, each once in a document.',
      default: 'main',
      pattern: /^[A-Za-z0-9][A-Za-z0-9 _-]{0,63}$/,
      accepts: 'letters, digits, spaces, _ and -, starting with a letter or digit',
    },
    budget: { kind: 'integer', label: 'Budget', help: 'Faces it may have; 0 sets none.', default: 0, min: 0, unit: 'faces' },
  },
  run: ({ settings, inputs, claim, warn }) => {
    const list = inputs('any');
    claim(totalOf(list));
    const set: GeometrySet = Object.fromEntries([...byKind(list)].map(([kind, group]) => [kind, joinGeometries(group)]));
    const faces = set.mesh ? triangleCount(set.mesh) : 0;
    if (settings.budget > 0 && faces > settings.budget)
      warn({
        code: 'budget',
        message: `${faces.toLocaleString('en-GB')} triangles are over the budget of ${settings.budget.toLocaleString('en-GB')}.`,
        remedy: 'Use fewer sides, points or rings, or raise the budget.',
      });
    return { result: { type: 'set', set } };
  },
});

export const flowNodes = [join, output];
