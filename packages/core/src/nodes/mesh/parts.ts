import { meshIn, meshOut, pointsOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { boxOf, joined, moved } from '../../definition/sample.js';
import { gatherRows, withAttributes, type Attribute } from '../../geometry/attributes.js';
import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import { makePoints } from '../../geometry/points.js';
import { takeFaces } from '../../mesh/change/takeFaces.js';
import { partsOf } from '../../mesh/change/partsOf.js';

/** Triangles of each part. */
function trianglesOfParts(mesh: Mesh, partOf: Uint32Array, parts: number): Float64Array {
  const triangles = new Float64Array(parts);
  for (let f = 0; f < faceCount(mesh); f++) triangles[partOf[f]] += faceStart(mesh, f + 1) - faceStart(mesh, f) - 2;
  return triangles;
}

/** How many, from the first on, come to no more than a budget. */
function countWithin(sizes: readonly number[], budget: number): number {
  let sum = 0;
  const over = sizes.findIndex((size) => (sum += size) > budget);
  return over < 0 ? sizes.length : over;
}

export default defineNode({
  type: 'mesh.parts',
  label: 'Parts',
  family: families.mesh,
  summary: 'Finds the connected pieces of a mesh: where each is, how large, and along what it runs.',
  help: 'Faces that hang together by their points are one part. Writes to each face: body (the number of its part, from 0; not to be confused with part, by which skins tell wall and caps), centre, axis (the direction in which its part is longest, from the spread of its surface, so bodies at any angle are right) and size (how far the part reaches along its three axes, metres). An axis has no sign of its own; agreed is that it points up, or, where it lies level, to the right or the front. Keep the largest parts, those large enough (scraps of a scan go so), or as many of the largest as a budget of triangles lets: of a clump of plants the smallest blades go first. The second output has a point in the middle of each part, with its axis as tangent: show their frames to see the directions.',
  attributes: { writes: ['body', 'centre', 'axis', 'size'], keeps: ['corner', 'face', 'whole'] },
  keywords: ['pieces', 'islands', 'connected', 'connectivity', 'principal axis', 'component', 'direction', 'scraps', 'clean', 'beam', 'separate'],
  asks: {
    'keep the largest piece': { keep: 'largest', count: 1 },
    'remove small scraps': { keep: 'largerThan' },
    'keep within a budget of faces': { keep: 'budget' },
    'leave out the smallest first': { keep: 'budget' },
    'long direction of each beam': {},
    'number the pieces': {},
  },
  telling: ['keep'],
  sample: { given: { mesh: joined(boxOf(1, 0.3, 0.5), moved(boxOf(0.3, 0.2, 0.6), 0, 1, 0)) } },
  inputs: [meshIn],
  outputs: [meshOut, pointsOut],
  settings: {
    keep: {
      kind: 'choice',
      label: 'Keep',
      help: 'Which parts go on.',
      default: 'all',
      choices: { all: 'all', largest: 'the largest', largerThan: 'those larger than', budget: 'as many as a budget lets' },
    },
    count: { kind: 'integer', label: 'Count', help: 'How many of the largest.', default: 1, min: 1, max: 1_000_000, shownWhen: { keep: ['largest'] } },
    by: {
      kind: 'choice',
      label: 'By',
      help: 'What counts as large: the area of a part, or its length along its axis.',
      default: 'area',
      choices: { area: 'area', length: 'length' },
      shownWhen: { keep: ['largest', 'largerThan', 'budget'] },
    },
    least: {
      kind: 'number',
      label: 'Larger than',
      help: 'Parts of at most this go: m² by area, metres by length.',
      default: 0.01,
      min: 0,
      step: 0.001,
      shownWhen: { keep: ['largerThan'] },
    },
    budget: {
      kind: 'integer',
      label: 'Budget',
      help: 'Triangles of all that goes on at most: the smallest parts are left out first.',
      default: 20_000,
      min: 1,
      max: 100_000_000,
      shownWhen: { keep: ['budget'] },
    },
  },
  run: (context) => {
    const { settings, warn } = context;
    const given = context.input('mesh');
    const { ofFace: partOf, shapes: all } = partsOf(given, context);
    const large = all.map(({ area, size }) => (settings.by === 'area' ? area : size[0]));
    const ranked = large.map((_, part) => part).sort((a, b) => large[b] - large[a] || a - b);
    const within = (): number[] => {
      const triangles = trianglesOfParts(given, partOf, all.length);
      return ranked.slice(0, countWithin(ranked.map((part) => triangles[part]), settings.budget)); // prettier-ignore
    };
    const kept = new Set(settings.keep === 'all' ? ranked : settings.keep === 'largest' ? ranked.slice(0, settings.count) : settings.keep === 'budget' ? within() : ranked.filter((part) => large[part] > settings.least)); // prettier-ignore
    if (settings.keep === 'budget' && kept.size < all.length)
      warn({ code: 'budget', message: `${all.length - kept.size} of ${all.length} parts are left out, the smallest, to keep within ${settings.budget.toLocaleString('en-GB')} triangles.`, remedy: 'Raise the budget, or make parts of fewer faces.' }); // prettier-ignore
    if (all.length && !kept.size)
      warn({ code: 'empty', message: `None of the ${all.length} parts is ${settings.keep === 'budget' ? 'within the budget' : `larger than ${settings.least}`}; the largest has ${Number(large[ranked[0]].toPrecision(3))}.`, remedy: settings.keep === 'budget' ? 'Raise the budget.' : 'Give a smaller size.' }); // prettier-ignore
    const numbers = [...kept].sort((a, b) => a - b);
    const shapes = numbers.map((part) => all[part]);
    const uncertain = shapes.findIndex((shape) => shape.uncertain);
    if (uncertain >= 0)
      warn({
        code: 'degenerate',
        message: `Part ${uncertain + 1} is as long one way as another, so which way it runs was agreed, not found (up, right, front).`,
        remedy: 'Turn it by hand where another direction is meant.',
      });
    const number = new Map(numbers.map((part, i) => [part, i]));
    const faces: number[] = [];
    for (let f = 0; f < faceCount(given); f++) if (kept.has(partOf[f])) faces.push(f);
    const mesh = takeFaces(given, faces, context);
    const ofFace = Uint32Array.from(faces, (f) => number.get(partOf[f])!);
    const perPart = (size: number, of: (part: number) => readonly number[]): Attribute => ({
      carrier: 'point',
      size,
      data: Float32Array.from(shapes.flatMap((_, part) => of(part).slice(0, size))),
    });
    const perFace = (size: number, of: (part: number) => readonly number[]): Attribute => ({
      carrier: 'face',
      size,
      data: gatherRows(perPart(size, of), ofFace),
    });
    const attributes = withAttributes(mesh.attributes, {
      body: perFace(1, (part) => [part]),
      centre: perFace(3, (part) => shapes[part].centre),
      axis: perFace(3, (part) => shapes[part].axes[0]),
      size: perFace(3, (part) => shapes[part].size),
    });
    const points = makePoints(
      Float32Array.from(shapes.flatMap(({ centre }) => centre)),
      new Map([
        ['tangent', perPart(3, (part) => shapes[part].axes[0])],
        ['normal', perPart(3, (part) => shapes[part].axes[1])],
        ['body', perPart(1, (part) => [part])],
        ['size', perPart(3, (part) => shapes[part].size)],
        ['area', perPart(1, (part) => [shapes[part].area])],
      ]),
    );
    return { mesh: { ...mesh, attributes }, points };
  },
});
