import { curvesOut, meshIn } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { emptyCurves } from '../../geometry/curves.js';
import type { Points } from '../../geometry/points.js';
import { routes } from '../../grow/routes.js';
import { newHit } from '../../near/nearest.js';
import { surfaceOf, type Surface } from '../../near/surface.js';
import { fieldAt } from '../../values/field.js';

/** The vertex of a body that is nearest to each point. */
function nearestVertices({ positions }: Points, body: Surface): number[] {
  const hit = newHit();
  return Array.from({ length: positions.length / 3 }, (_, i) => {
    const { piece, weights } = body.nearest.nearest(positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2], hit);
    const corner = weights.indexOf(Math.max(...weights));
    return body.nearest.pieces.points[piece * 3 + corner];
  });
}

export default defineNode({
  type: 'grow.routes',
  label: 'Shortest routes',
  family: families.grow,
  summary: 'The shortest ways along the edges of a mesh, from starts to ends: veins, roots, frost.',
  help: 'From every end a way leads along edges to the start that is nearest to it, or to each start. Starts are the vertices nearest to the points that are wired in, and those for which a condition holds; ends are given by points, or are all other vertices. Where the way is harder it costs more, so routes keep out of there. Routes that share a way are one curve there: the busiest goes on where it forks, the others begin there. Points know how many routes pass (traffic), how far the start is (distance), and when growth gets there (birth, for Reveal); curves know the length of their route, its share of the longest, and which curve they leave (parent). On an even mesh routes look even: reduce it and even it out with long edges first.',
  attributes: { writes: ['tangent', 'normal', 'traffic', 'distance', 'birth', 'length', 'share', 'start', 'order', 'parent', 'longest'] },
  keywords: ['veins', 'roots', 'frost', 'path', 'shortest', 'geodesic', 'cracks', 'lightning', 'rivers', 'network'],
  asks: {
    'veins over a body': {},
    'the shortest way over a mesh': { merge: false },
    'ways from each start to each end': { from: 'each' },
  },
  telling: ['from', 'merge'],
  sample: { settings: { begin: { formula: 'y > 0.95' }, end: { formula: 'y < 0' } } },
  inputs: [meshIn, { name: 'starts', kinds: ['points'], optional: true }, { name: 'ends', kinds: ['points'], optional: true }],
  outputs: [curvesOut],
  settings: {
    from: {
      kind: 'choice',
      label: 'From',
      help: 'Every end is reached from the start nearest to it, or from each.',
      default: 'nearest',
      choices: { nearest: 'the nearest start', each: 'each start' },
    },
    merge: { kind: 'boolean', label: 'One network', help: 'Routes that share a way are one curve there.', default: true },
    begin: {
      kind: 'boolean',
      label: 'Also start where',
      help: 'Vertices that are starts as well: those for which a condition holds, such as a mark.',
      default: false,
      condition: true,
    },
    end: {
      kind: 'boolean',
      label: 'End where',
      help: 'Of the vertices that are ends when no ends are wired in: all, or those for which a condition holds.',
      default: true,
      condition: true,
    },
    harder: {
      kind: 'number',
      label: 'Harder',
      help: 'How much harder the way is at a vertex: 1 makes it cost twice its length.',
      default: 0,
      min: 0,
      max: 1_000_000,
      step: 0.01,
      varies: 'point',
    },
    pace: {
      kind: 'number',
      label: 'Pace',
      help: 'How fast growth goes along, for birth.',
      default: 0.5,
      min: 0,
      above: true,
      unit: 'm/s',
      step: 0.01,
      group: 'Time',
    },
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const [mesh, starts, ends] = [input('mesh'), input('starts'), input('ends')];
    const body = surfaceOf(mesh, context);
    const vertices = mesh.positions.length / 3;
    const harder = field(settings.harder, mesh, 'point');
    const where = (given: typeof settings.begin): number[] => {
      const holds = field(given, mesh, 'point');
      return Array.from({ length: vertices }, (_, v) => v).filter((v) => fieldAt(holds, v) !== 0);
    };
    const begins = [...(starts ? nearestVertices(starts, body) : []), ...where(settings.begin)];
    if (!begins.length) {
      warn({ code: 'empty', message: 'There are no starts.', remedy: 'Wire points into starts, or say at which vertices to start.' });
      return { curves: emptyCurves };
    }
    const targets = ends ? nearestVertices(ends, body) : where(settings.end);
    const { curves, unreachable } = routes(mesh, begins, targets, { ...settings, harder }, context);
    if (unreachable)
      warn({ code: 'not-closed', message: `${unreachable} of ${new Set(targets).size} ends cannot be reached: they are on other parts of the mesh.`, remedy: 'Weld the mesh, keep its largest part, or give each part a start.' }); // prettier-ignore
    return { curves };
  },
});
