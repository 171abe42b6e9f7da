import createGraph from 'ngraph.graph';
import { aStar } from 'ngraph.path';
import { MeshBVH, type HitPointInfo } from 'three-mesh-bvh';
import { BufferAttribute, BufferGeometry, Vector3 } from 'three';
import { heldBy, makePicture, type Sent } from '../apps/web/src/workers/picture.js';
import {
  curvesFromLists,
  derive,
  Evaluator,
  icosphere,
  Plan,
  Pool,
  readRules,
  requireDocument,
  resultOf,
  surfaceOf,
  triangulate,
  unbounded,
} from '../packages/core/src/index.js';
import { Creep, type CreepOptions } from '../packages/core/src/grow/creep.js';
import { cheapestWays, edgeGraph } from '../packages/core/src/grow/routes.js';
import { drawModules } from '../packages/core/src/grow/rules/turtle.js';
import { solid } from '../packages/core/src/mesh/cut/solid.js';
import { blendedTube } from '../packages/core/src/skin/forks/blendedTube.js';
import { defaultTube, tube } from '../packages/core/src/skin/tube/tube.js';
import { randomAt } from '../packages/core/src/values/random.js';
import { faster, fastest, millisecondsOf, ms, rows } from './timing.js';

const [tips, steps] = [1000, 300];
const none = { constant: 0, values: null };

/** Vines over a body against the same growth on three-mesh-bvh, ways over a mesh against ngraph.path, rules against their number. */
export function growth(): void {
  const body = icosphere(1, 50, unbounded);
  const surface = surfaceOf(body);
  const guide = curvesFromLists([Array.from({ length: tips }, (_, i) => [Math.cos((2 * Math.PI * i) / tips), 0, Math.sin((2 * Math.PI * i) / tips)])]);
  const options: CreepOptions = { startEvery: 1, heading: 'any', chance: 1, steps, step: { constant: 0.02, values: null }, uneven: 0.5, turn: 0.4, lean: [none, none, none], offset: 0.005, branch: 0, avoid: 0, gap: 0, seed: 1, pace: 24, spread: 0 }; // prettier-ignore
  const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(body.positions.slice(), 3)).setIndex(new BufferAttribute(triangulate(body).indices, 1)); // prettier-ignore
  const tree = new MeshBVH(geometry);
  const grown = new Creep(surface, options, unbounded).grow(guide).curves;
  const vines = fastest({ ours: () => new Creep(surface, options, unbounded).grow(guide), theirs: () => vinesOnBvh(guide.positions, tree, geometry) }, 3);
  faster(`${tips} tips × ${steps} steps on 50,000 triangles`, vines.ours, 'the same loop on three-mesh-bvh', vines.theirs, '≥ 6×');
  console.log(`  ${(grown.positions.length / 3 / (tips * (steps + 1))).toFixed(2)} points made for each that a step needs`);

  const large = icosphere(1, 127, unbounded);
  const graph = edgeGraph(large, none, unbounded);
  const named = createGraph();
  for (let p = 0; p < graph.count; p++) for (let k = graph.starts[p]; k < graph.starts[p + 1]; k++) if (p < graph.links[k]) named.addLink(p, graph.links[k], graph.lengths[k]); // prettier-ignore
  const finder = aStar<unknown, number>(named, { distance: (_from, _to, link) => link.data });
  const far = cheapestWays(graph, [0], unbounded).order[graph.count - 1];
  const ways = fastest({ ours: () => cheapestWays(graph, [0], unbounded), theirs: () => finder.find(0, far) }, 3);
  faster(`all ways over ${graph.count.toLocaleString('en-GB')} points`, ways.ours, 'one far find of ngraph.path', ways.theirs, '≥ 5×');

  const rules = readRules('A(1)', 'A(l) -> F(l) [ +(20) A(l * 0.7) ] [ -(20) A(l * 0.7) ] A(l * 0.8)', []);
  const plant = (times: number) => (): unknown =>
    drawModules(derive(rules, { times, seed: 1, given: [], most: 4_000_000 }, unbounded).modules, { angle: 20, step: 1, width: 0.1, taper: 0.7, tropism: [0, 1, 0], tropismStrength: 0, pace: 1, times }, unbounded); // prettier-ignore
  const count = (times: number): number => derive(rules, { times, seed: 1, given: [], most: 4_000_000 }, unbounded).modules.count;
  const plants = fastest({ small: plant(9), large: plant(11) }, 3);
  const [small, many] = [count(9), count(11)];
  console.log(
    `  ${many.toLocaleString('en-GB')} modules derived and drawn ${plants.large.toFixed(0)} ms (a million in ${((plants.large / many) * 1e6).toFixed(0)} ms; asked: 1000) · ` +
      `a module takes ${(plants.large / many / (plants.small / small)).toFixed(2)}× as long as with ${small.toLocaleString('en-GB')}`,
  );
}

/** A grown vine of 200,000 faces at any moment of its timeline, as a hand scrubs it: from the time to the picture. */
export async function scrub(): Promise<void> {
  const node = (id: string, type: string, settings: object): object => ({ id, type, settings });
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Vine',
    nodes: [
      node('body', 'lay.sphere', { divisions: 40 }),
      node('guide', 'lay.circle', { radius: 1, points: 96 }),
      node('vines', 'grow.creep', { chance: 1, steps: 260, step: 0.02, heading: 'any' }),
      node('now', 'grow.reveal', {}),
      node('skin', 'skin.tube', { radius: { formula: '0.004 * grown' }, sides: 8 }),
      node('out', 'flow.output', {}),
    ],
    wires: [['guide.curves', 'vines.curves'], ['body.mesh', 'vines.mesh'], ['vines.curves', 'now.any'], ['now.any', 'skin.curves'], ['skin.mesh', 'out.any']].map(([from, to]) => ({ from: from.split('.'), to: to.split('.') })), // prettier-ignore
  });
  const plan = new Plan(document);
  const pool = new Pool();
  const evaluator = new Evaluator({ pool });
  let [sent, most, turn]: [Sent | undefined, number, number] = [undefined, 0, 0];
  const end = 260 / 24;
  const moment = async (): Promise<void> => {
    const run = await evaluator.run(plan, { time: end * ((++turn * 0.618034) % 1) });
    const result = run.nodes.get('out')!;
    if (result.error) throw new Error(result.error.message);
    most = Math.max(most, result.out.faces ?? 0);
    const made = makePicture({ sets: [resultOf(result)], paths: [], budget: 0, colour: null, ghost: [] }, sent, pool);
    sent = made.sent;
    evaluator.reclaim(run, heldBy(sent));
  };
  const times = await millisecondsOf(moment, 61, 36);
  rows.push({
    what: `a grown vine scrubbed, up to ${most.toLocaleString('en-GB')} faces, to the picture`,
    ours: ms(times[30]),
    against: '',
    result: `p95 ${ms(times[57])}`,
    reach: '< 50 ms, and 41 ms a frame when played',
  });
}

/** A hundred branches on a stem as one surface, against the union of the same tubes by manifold-3d. */
export async function forks(): Promise<void> {
  const branches = Array.from({ length: 100 }, (_, i) => [0, 0.3, 0.6, 1].map((s) => [0.5 + i * 0.1, Math.cos(i * 2.4) * s, Math.sin(i * 2.4) * s]));
  const curves = curvesFromLists([[[0, 0, 0], [11, 0, 0]], ...branches]); // prettier-ignore
  const options = { ...defaultTube, radius: { constant: 0.01, values: null } };
  const { mesh } = tube(curves, options);
  const [ours] = await millisecondsOf(() => Promise.resolve(blendedTube(curves, options)), 3);
  const [theirs] = await millisecondsOf(() => solid([mesh], 'union'), 3);
  faster('100 branches on a stem as one surface', ours, 'their union by manifold-3d', theirs, '');
}

/** The same vines as anybody would write them: a step, and the nearest place of the body. */
function vinesOnBvh(starts: Float32Array, tree: MeshBVH, geometry: BufferGeometry): number {
  const [index, p] = [geometry.index!, geometry.attributes['position']];
  const [at, way, normal, cross] = [0, 1, 2, 3].map(() => new Vector3());
  const [a, b, c] = [0, 1, 2].map(() => new Vector3());
  const target = { point: new Vector3(), distance: 0, faceIndex: 0 } as HitPointInfo;
  let made = 0;
  for (let tip = 0; tip < tips; tip++) {
    tree.closestPointToPoint(at.fromArray(starts, tip * 3), target);
    way.set(0, 1, 0);
    const points: number[] = [];
    for (let step = 0; step < steps; step++) {
      const f = target.faceIndex * 3;
      for (const [i, corner] of [a, b, c].entries()) corner.fromBufferAttribute(p as BufferAttribute, index.getX(f + i));
      normal.crossVectors(b.sub(a), c.sub(a)).normalize();
      way.addScaledVector(normal, -way.dot(normal)).normalize();
      const angle = 0.4 * (2 * randomAt(tip, step) - 1);
      cross.crossVectors(normal, way);
      way.multiplyScalar(Math.cos(angle)).addScaledVector(cross, Math.sin(angle));
      at.copy(target.point).addScaledVector(way, 0.02 * (0.5 + randomAt(tip, step + 7)));
      tree.closestPointToPoint(at, target);
      points.push(target.point.x + normal.x * 0.005, target.point.y + normal.y * 0.005, target.point.z + normal.z * 0.005);
    }
    made += points.length / 3;
  }
  return made;
}
