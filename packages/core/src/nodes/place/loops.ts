import { curvesOut, meshIn } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { boxOf, joined, moved, type SampleNode } from '../../definition/sample.js';
import { curveCount, emptyCurves, type Curves } from '../../geometry/curves.js';
import { makePoints, type Points } from '../../geometry/points.js';
import { nearestTreeOf, newHit, type NearestTree } from '../../near/nearest.js';
import { loopsAround } from '../../place/loops.js';
import { asRopes } from '../../place/turns.js';

/** Two poles side by side, taken apart. */
const poles: SampleNode = { type: 'mesh.parts', given: { mesh: joined(boxOf(0.1, 2, 0.1), moved(boxOf(0.1, 1.6, 0.1), 0.2, 0, 0)) } };

export default defineNode({
  type: 'place.loops',
  label: 'Loops around',
  family: families.place,
  summary: 'Winds loops round a beam, pile or rail wherever a point lies on it.',
  help: 'Each point belongs to the part of the mesh that is nearest to it. Its loops lie square to the long axis of that part, from just before the place on, so far apart as told. Pulled tight runs straight over hollows, as a rope under load does; section follows the outline exactly. Give half the thickness of the rope as offset. Loops of one part that would lie in each other are moved apart by twice the offset. One rope winds all loops of a point as one open curve; curves wired into leads, such as links that hang, go on into the turns at their ends, and those ends that lie on the body are the points where none are given.',
  attributes: { writes: ['point', 'loop', 'body'] },
  keywords: ['wrap', 'wind', 'turns', 'lashing', 'coil', 'ring', 'rope', 'around', 'beam', 'tie', 'band'],
  asks: {
    'wind a rope round a beam': {},
    'turns round the pile': { count: 4 },
    'loops tight on the surface': { method: 'section' },
    'one rope with its turns': { form: 'rope' },
  },
  telling: ['count', 'method'],
  sample: { given: { mesh: poles, points: { of: poles, output: 'points' } } },
  inputs: [meshIn, { name: 'points', kinds: ['points'], optional: true }, { name: 'leads', kinds: ['curves'], optional: true }],
  outputs: [curvesOut],
  settings: {
    count: { kind: 'integer', label: 'Count', help: 'Loops at each point.', default: 3, min: 0, max: 1000, varies: 'point' },
    spacing: {
      kind: 'number',
      label: 'Spacing',
      help: 'Along the part from loop to loop.',
      default: 0.04,
      earlier: { before: 2, default: 0.05 },
      min: 0,
      unit: 'm',
      step: 0.005,
    },
    before: { kind: 'number', label: 'Before', help: 'How far before the place, along the part, the first loop lies.', default: 0.05, unit: 'm', step: 0.005 },
    method: {
      kind: 'choice',
      label: 'Method',
      help: 'Over what stands out, or along the outline itself.',
      default: 'pulledTight',
      choices: { pulledTight: 'pulled tight', section: 'section' },
    },
    form: {
      kind: 'choice',
      label: 'Form',
      help: 'Closed rings, or one open rope for each point, joined to what leads there.',
      default: 'rings',
      choices: { rings: 'rings', rope: 'one rope' },
    },
    offset: { kind: 'number', label: 'Offset', help: 'Off the surface: half the thickness of the rope.', default: 0.012, min: 0, unit: 'm', step: 0.001 },
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const leads = input('leads') ?? null;
    const points = input('points') ?? (leads && endsOn(leads, nearestTreeOf(input('mesh'), context), Math.max(settings.offset * 2, 0.01)));
    if (!points) {
      warn({ code: 'empty', message: 'Waiting for points or leads.', remedy: 'Wire one of them to it.' });
      return { curves: emptyCurves };
    }
    const { curves, beyond, crowded } = loopsAround(input('mesh'), points, { ...settings, count: field(settings.count, points, 'point') }, context);
    if (beyond)
      warn({
        code: 'empty',
        message: `${beyond} of ${beyond + curveCount(curves)} loops lie beyond the end of their part and are left out.`,
        remedy: 'Use fewer loops, a smaller spacing, or begin them further before the place.',
      });
    if (crowded.length)
      warn({
        code: 'self-cross',
        message: `There is no room for all loops beside each other on ${crowded.length === 1 ? 'part' : 'parts'} ${crowded.slice(0, 8).map((part) => part + 1).join(', ')}${crowded.length > 8 ? ' …' : ''}, so they lie in each other.`,
        remedy: 'Use fewer loops, or a thinner rope with less offset.',
      }); // prettier-ignore
    // Points may lie on the rope's own surface instead of the body's.
    return { curves: settings.form === 'rope' ? asRopes(curves, points, leads, Math.max(settings.offset, 1e-4)) : curves };
  },
});

/** The ends of open curves that lie within some metres of a body. */
function endsOn({ positions, starts, closed }: Curves, body: NearestTree, near: number): Points {
  const hit = newHit();
  const ends: number[] = [];
  for (let c = 0; c + 1 < starts.length; c++)
    for (const i of closed[c] ? [] : [starts[c], starts[c + 1] - 1]) {
      const [x, y, z] = positions.subarray(i * 3, i * 3 + 3);
      body.nearest(x, y, z, hit);
      if (hit.distance <= near) ends.push(x, y, z);
    }
  return makePoints(Float32Array.from(ends));
}
