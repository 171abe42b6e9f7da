import { offset } from '../curves/change/offset.js';
import { planeOf } from '../curves/evaluate/plane.js';
import { gatherCurves, takeCurves } from '../geometry/gather.js';
import { joinCurves } from '../geometry/join.js';
import type { Attribute } from '../geometry/attributes.js';
import { curveCount, curvesFromLists, makeCurves, type Curves } from '../geometry/curves.js';
import type { Mesh } from '../geometry/mesh.js';
import type { Points } from '../geometry/points.js';
import { partsOf, type PartsOf } from '../mesh/change/partsOf.js';
import { section, type CuttingPlane } from '../mesh/cut/section.js';
import type { PartShape } from '../mesh/topology/principal.js';
import { nearestTreeOf, newHit } from '../near/nearest.js';
import { tick, type Work } from '../base/work.js';
import { constantField, fieldAt, type Field } from '../values/field.js';

export interface LoopOptions {
  /** Loops at each point. */
  count: Field;
  /** Metres along the part from loop to loop. */
  spacing: number;
  /** Metres before the place at which the first lies. */
  before: number;
  /** `pulledTight`: the taut loop over what stands out; `section`: the outline itself. */
  method: 'pulledTight' | 'section';
  /** Metres off the body. */
  offset: number;
}

export interface Loops {
  /** Closed curves with `point`, `loop` (its number there, from 0) and `part`. */
  readonly curves: Curves;
  /** Loops that lie beyond the end of their part, so that there is nothing to wind round. */
  readonly beyond: number;
  /** Parts on which there is no room for their loops beside each other. */
  readonly crowded: readonly number[];
}

interface Wanted {
  readonly point: number;
  readonly loop: number;
  /** Metres along the part's axis from its centre. */
  s: number;
}

/** Winds loops round the parts of a body on which points lie, square to the part's long axis; those that would touch are moved apart. */
export function loopsAround(mesh: Mesh, points: Points, options: LoopOptions, work: Work): Loops {
  const parts = partsOf(mesh, work);
  const wanted = wantedOf(mesh, points, parts, options, work);
  const crowded: number[] = [];
  const lists: Curves[] = [];
  let beyond = 0;
  let done = 0;
  for (const [part, loops] of [...wanted].sort(([a], [b]) => a - b)) {
    work.progress(done++ / wanted.size);
    const shape = parts.shapes[part];
    if (!spaced(loops, options.offset * 2, shape)) crowded.push(part);
    const planes = loops.map(({ s }): CuttingPlane => ({
      origin: [0, 1, 2].map((k) => shape.centre[k] + shape.axes[0][k] * s) as [number, number, number],
      normal: shape.axes[0],
    }));
    const { curves, missed } = outlines(parts.meshOf(part, work), planes, options, work);
    beyond += missed;
    const of = (plane: number): Wanted => loops[plane];
    const plane = curves.attributes.get('plane')?.data ?? [];
    const perCurve = (value: (w: Wanted) => number): Attribute => ({ carrier: 'curve', size: 1, data: Float32Array.from(plane, (which) => value(of(which))) });
    const attributes = new Map([['point', perCurve((w) => w.point)], ['loop', perCurve((w) => w.loop)], ['body', perCurve(() => part)]]); // prettier-ignore
    lists.push(makeCurves({ ...begunNear(curves, plane, (which) => points.positions.subarray(of(which).point * 3, of(which).point * 3 + 3)), attributes }));
  }
  return { curves: inOrder(lists), beyond, crowded };
}

/** The loops of each part: where along it, for which point. */
function wantedOf(mesh: Mesh, points: Points, { ofFace, shapes }: PartsOf, options: LoopOptions, work: Work): Map<number, Wanted[]> {
  const tree = nearestTreeOf(mesh, work);
  const hit = newHit();
  const wanted = new Map<number, Wanted[]>();
  const p = points.positions;
  let total = 0;
  for (let i = 0; i < p.length / 3; i++) {
    tick(work, i, p.length / 3);
    tree.nearest(p[i * 3], p[i * 3 + 1], p[i * 3 + 2], hit);
    const part = ofFace[hit.element];
    const { centre, axes } = shapes[part];
    const at = [0, 1, 2].reduce((sum, k) => sum + (p[i * 3 + k] - centre[k]) * axes[0][k], 0);
    const count = Math.max(0, Math.round(fieldAt(options.count, i)));
    work.claim({ points: (total += count) * 8 });
    const list = wanted.get(part) ?? [];
    for (let loop = 0; loop < count; loop++) list.push({ point: i, loop, s: at - options.before + loop * options.spacing });
    wanted.set(part, list);
  }
  return wanted;
}

/** Moves loops along a part until neighbours are `gap` apart, in their order along it; false where there is no room for that. */
function spaced(loops: Wanted[], gap: number, shape: PartShape): boolean {
  if (!(gap > 0)) return true;
  loops.sort((a, b) => a.s - b.s || a.point - b.point || a.loop - b.loop);
  const [low, high] = [shape.from + gap / 2, shape.from + shape.size[0] - gap / 2];
  const within = loops.filter(({ s }) => s >= shape.from && s <= shape.from + shape.size[0]);
  if (!within.length) return true;
  const room = high - low >= (within.length - 1) * gap;
  const own = room ? gap : Math.max(0, (high - low) / Math.max(1, within.length - 1));
  within[0].s = Math.max(within[0].s, low);
  for (let i = 1; i < within.length; i++) within[i].s = Math.max(within[i].s, within[i - 1].s + own);
  within[within.length - 1].s = Math.min(within[within.length - 1].s, high);
  for (let i = within.length - 2; i >= 0; i--) within[i].s = Math.min(within[i].s, within[i + 1].s - own);
  return room;
}

/** One outline a plane: the largest, or what a taut line over all of them is, set off the body. */
function outlines(part: Mesh, planes: readonly CuttingPlane[], options: LoopOptions, work: Work): { curves: Curves; missed: number } {
  const cut = section(part, planes, work);
  const plane = cut.attributes.get('plane')!.data;
  const lists: (readonly (readonly number[])[])[] = [];
  const which: number[] = [];
  for (let c = 0; c < curveCount(cut); c++) {
    // Plane after plane, the largest first.
    if (which.at(-1) === plane[c]) continue;
    let next = c + 1;
    while (options.method !== 'section' && next < curveCount(cut) && plane[next] === plane[c]) next++;
    const places = Array.from({ length: cut.starts[next] - cut.starts[c] }, (_, i) => [0, 1, 2].map((k) => cut.positions[(cut.starts[c] + i) * 3 + k]));
    const outline = options.method === 'section' ? places : hull(places, planes[plane[c]]);
    if (outline.length < 3) continue;
    lists.push(outline);
    which.push(plane[c]);
  }
  const attributes = new Map<string, Attribute>([['plane', { carrier: 'curve', size: 1, data: Float32Array.from(which) }]]);
  const tight = curvesFromLists(lists, { closed: lists.map(() => true), kind: 'straight' });
  const curves = makeCurves({ ...tight, attributes });
  if (!options.offset) return { curves, missed: planes.length - which.length };
  const { curves: off } = offset(curves, { distance: constantField(options.offset), joins: 'round', facing: 'own' }, work);
  return { curves: off, missed: planes.length - new Set(off.attributes.get('plane')!.data).size };
}

/** The convex hull of places in a plane (Andrew 1979). */
function hull(places: readonly (readonly number[])[], { origin, normal }: CuttingPlane): (readonly number[])[] {
  const { u, v } = planeOf(normal);
  const flat = places
    .map((place) => {
      const [x, y, z] = [0, 1, 2].map((k) => place[k] - origin[k]);
      return { place, x: x * u[0] + y * u[1] + z * u[2], y: x * v[0] + y * v[1] + z * v[2] };
    })
    .sort((a, b) => a.x - b.x || a.y - b.y);
  const turn = (a: (typeof flat)[0], b: (typeof flat)[0], c: (typeof flat)[0]): number => (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
  const half = (list: typeof flat): typeof flat => {
    const chain: typeof flat = [];
    for (const each of list) {
      while (chain.length > 1 && turn(chain[chain.length - 2], chain[chain.length - 1], each) <= 1e-12) chain.pop();
      chain.push(each);
    }
    return chain.slice(0, -1);
  };
  return [...half(flat), ...half([...flat].reverse())].map(({ place }) => place);
}

/** Closed curves that begin at their point nearest to a place. */
function begunNear(curves: Curves, plane: ArrayLike<number>, place: (plane: number) => ArrayLike<number>): Curves {
  const order: number[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const [from, to] = [curves.starts[c], curves.starts[c + 1]];
    const at = place(plane[c]);
    const away = (i: number): number => [0, 1, 2].reduce((sum, k) => sum + (curves.positions[i * 3 + k] - at[k]) ** 2, 0);
    let first = from;
    for (let i = from; i < to; i++) if (away(i) < away(first)) first = i;
    for (let i = 0; i < to - from; i++) order.push(from + ((first - from + i) % (to - from)));
  }
  const sources = Array.from({ length: curveCount(curves) }, (_, c) => c);
  return gatherCurves(curves, { points: order, starts: curves.starts, sources, closed: curves.closed });
}

/** The loops of all parts, point after point. */
function inOrder(lists: readonly Curves[]): Curves {
  const all = joinCurves(lists);
  if (!curveCount(all)) return all;
  const [point, loop] = ['point', 'loop'].map((name) => all.attributes.get(name)!.data);
  return takeCurves(
    all,
    [...Array(curveCount(all)).keys()].sort((a, b) => point[a] - point[b] || loop[a] - loop[b]),
  );
}
