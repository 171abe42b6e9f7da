import { curveCount, paced, resultOf, type Curves, type Mesh } from '@filaxis/core';
import type { Anchor, Answers, Measure, Measured, MeasureKind, Questions } from '@filaxis/protocol';
import type { Newest } from './newest';
import { faceCorners, makerOf } from './seen';

type Place = readonly number[];

const minus = (a: Place, b: Place): number[] => a.map((value, k) => value - b[k]);
const length = (v: Place): number => Math.hypot(...v);
const dot = (a: Place, b: Place): number => a.reduce((sum, value, k) => sum + value * b[k], 0);
const apart = (a: Place, b: Place): number => length(minus(a, b));
const mixed = (a: Place, b: Place, share: number): number[] => a.map((value, k) => value + (b[k] - value) * share);

/** The points of one curve, its first once more at the end where it is closed; and how far along each lies, metres. */
function pointsOf(curves: Curves, curve: number): { points: number[][]; along: number[] } {
  const lines = paced(curves);
  const points = Array.from({ length: lines.starts[curve + 1] - lines.starts[curve] }, (_, i) => {
    const at = (lines.starts[curve] + i) * 3;
    return [...lines.positions.subarray(at, at + 3)];
  });
  if (lines.closed[curve]) points.push(points[0]);
  const along = [0];
  for (let i = 1; i < points.length; i++) along.push(along[i - 1] + apart(points[i - 1], points[i]));
  return { points, along };
}

/** Shares of three corners at a place of their triangle. */
function sharesOf(corners: readonly Place[], place: Place): number[] {
  const [a, b, p] = [minus(corners[1], corners[0]), minus(corners[2], corners[0]), minus(place, corners[0])];
  const [aa, ab, bb, pa, pb] = [dot(a, a), dot(a, b), dot(b, b), dot(p, a), dot(p, b)];
  const area = aa * bb - ab * ab || 1;
  const [second, third] = [(bb * pa - ab * pb) / area, (aa * pb - ab * pa) / area];
  return [1 - second - third, second, third];
}

/** What a place that was clicked hangs on. */
export function anchorOf(newest: Newest, { seen, place }: Questions['anchor']): Answers['anchor'] {
  const maker = makerOf(newest, seen);
  const set = maker && resultOf(newest.run.nodes.get(maker.node));
  if (maker?.kind === 'mesh' && seen.corners) {
    const corners = [0, 1, 2].map((k) => seen.corners!.slice(k * 3, k * 3 + 3));
    return { node: maker.node, place, vertices: faceCorners(set!.mesh!, maker.element, seen.corners).map(Number), shares: sharesOf(corners, place) };
  }
  if (maker?.kind === 'curves') {
    const { points, along } = pointsOf(set!.curves!, maker.element);
    const nearest = points.reduce((best, point, i) => (apart(point, place) < apart(points[best], place) ? i : best), 0);
    return { node: maker.node, place, curve: maker.element, share: along[nearest] / (along.at(-1) || 1) };
  }
  return { node: null, place };
}

/** Where an anchor is now; null: what it hung on is gone. */
function placeOf({ run }: Newest, { node, vertices, shares, curve, share }: Anchor): number[] | null {
  if (node === null) return null;
  const { mesh, curves } = resultOf(run.nodes.get(node));
  if (vertices && shares) return onMesh(mesh, vertices, shares);
  if (curve === undefined || share === undefined || !curves || curve >= curveCount(curves)) return null;
  return at(pointsOf(curves, curve), share);
}

function onMesh(mesh: Mesh | undefined, vertices: readonly number[], shares: readonly number[]): number[] | null {
  if (!mesh || vertices.some((vertex) => vertex * 3 >= mesh.positions.length)) return null;
  return [0, 1, 2].map((k) => vertices.reduce((sum, vertex, i) => sum + mesh.positions[vertex * 3 + k] * shares[i], 0));
}

/** The place at a share of a curve's length. */
function at({ points, along }: ReturnType<typeof pointsOf>, share: number): number[] {
  const wanted = share * along.at(-1)!;
  const i = Math.max(1, along.findIndex((each) => each >= wanted)); // prettier-ignore
  const step = along[i] - along[i - 1];
  return step > 0 ? mixed(points[i - 1], points[i], (wanted - along[i - 1]) / step) : points[i];
}

/** Where measures are now, and what they come to. */
export const measuredNow = (newest: Newest, { measures }: Questions['measured']): Answers['measured'] => measures.map((measure) => now(newest, measure));

function now(newest: Newest, { kind, anchors }: Measure): Measured {
  const found = anchors.map((anchor) => placeOf(newest, anchor));
  const places = found.map((place, i) => place ?? [...anchors[i].place]);
  const lost = anchors.some(({ node }, i) => node !== null && !found[i]);
  return { places, lost, ...figuresOf[kind](newest, anchors, places) };
}

type Figures = Pick<Measured, 'line' | 'value' | 'why'>;
type Figure = (newest: Newest, anchors: readonly Anchor[], places: readonly (readonly number[])[]) => Figures;

const none = (line: Figures['line'], why: string): Figures => ({ line, value: null, why });

/** The curve that all anchors hang on; null: none. */
function sameCurve({ run }: Newest, anchors: readonly Anchor[]): Curves | null {
  const [{ node, curve }] = anchors;
  if (node === null || curve === undefined || anchors.some((each) => each.node !== node || each.curve !== curve)) return null;
  const { curves } = resultOf(run.nodes.get(node));
  return curves && curve < curveCount(curves) ? curves : null;
}

const figuresOf: { readonly [K in MeasureKind]: Figure } = {
  distance: (_, __, [a, b]) => ({ line: [a, b], value: apart(a, b), why: null }),
  angle: (_, __, [a, middle, b]) => {
    const [u, v] = [minus(a, middle), minus(b, middle)];
    // By the tangent of half of it, which is exact for narrow and flat angles too (Kahan 2006).
    const [lu, lv] = [length(u), length(v)];
    const [p, q] = [u.map((value) => value * lv), v.map((value) => value * lu)];
    const degrees = (2 * Math.atan2(apart(p, q), length(p.map((value, k) => value + q[k]))) * 180) / Math.PI;
    return lu && lv ? { line: [a, middle, b], value: degrees, why: null } : none([a, middle, b], 'Two of its places are one.');
  },
  along: (newest, anchors, places) => {
    const curves = sameCurve(newest, anchors);
    if (!curves) return none(places, 'Its places are not on one curve.');
    const { points, along } = pointsOf(curves, anchors[0].curve!);
    const [low, high] = anchors.map(({ share }) => share! * along.at(-1)!).sort((a, b) => a - b);
    const between = points.filter((_, i) => along[i] > low && along[i] < high);
    const ends = [low, high].map((each) => at({ points, along }, each / (along.at(-1) || 1)));
    return { line: [ends[0], ...between, ends[1]], value: high - low, why: null };
  },
  bend: (newest, anchors, places) => {
    const curves = sameCurve(newest, anchors);
    if (!curves) return none(places, 'Its place is not on a curve.');
    const { points, along } = pointsOf(curves, anchors[0].curve!);
    const i = Math.min(points.length - 2, Math.max(1, along.findIndex((each) => each >= anchors[0].share! * along.at(-1)! - 1e-9))); // prettier-ignore
    return circleThrough(points[i - 1], points[i], points[i + 1]);
  },
};

/** The circle through three places: its radius, and itself as a line. */
function circleThrough(a: Place, b: Place, c: Place): Figures {
  const [u, v] = [minus(b, a), minus(c, a)];
  const [uu, uv, vv] = [dot(u, u), dot(u, v), dot(v, v)];
  const area = uu * vv - uv * uv;
  if (!(area > 1e-12 * uu * vv)) return none([b], 'It is straight there.');
  const [s, t] = [(vv * (uu - uv)) / (2 * area), (uu * (vv - uv)) / (2 * area)];
  const toMiddle = u.map((value, k) => value * s + v[k] * t);
  const radius = length(toMiddle);
  const middle = a.map((value, k) => value + toMiddle[k]);
  const x = toMiddle.map((value) => -value / radius);
  const rest = u.map((value, k) => value - x[k] * dot(u, x));
  const y = rest.map((value) => value / length(rest));
  const line = Array.from({ length: 49 }, (_, i) => {
    const angle = (i / 48) * 2 * Math.PI;
    return middle.map((value, k) => value + radius * (x[k] * Math.cos(angle) + y[k] * Math.sin(angle)));
  });
  return { line: [...line, line[0]], value: radius, why: null };
}
