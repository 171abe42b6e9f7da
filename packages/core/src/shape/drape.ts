import type { Curves } from '../geometry/curves.js';
import { curveCount } from '../geometry/curves.js';
import { withAttributes } from '../geometry/attributes.js';
import type { Mesh } from '../geometry/mesh.js';
import type { Points } from '../geometry/points.js';
import { asBezier, throughMoved } from '../curves/knots.js';
import { PlacedCurves, PlaceList } from '../curves/places.js';
import { spanLength } from '../curves/arcLength.js';
import { spanPoint, spansOf, type Spans } from '../curves/spans.js';
import { refreshNormals } from '../mesh/normals.js';
import { progressEvery, type Work } from '../graph/work.js';
import type { Surface } from '../space/surface.js';
import { Landing, type LandingOptions } from './landing.js';

export interface DrapeOptions extends LandingOptions {
  /** `points`: the points there are come to lie on the body; `refine`: curves get more, until they follow it within `tolerance`. */
  follow: 'points' | 'refine';
  /** Metres between a draped curve and the surface (or its offset) at most. */
  tolerance: number;
}

/**
 * Lays curves, points or a mesh on a body. Points that have nothing of it in their way stay where they are, and are counted in `missed`. Curves that are
 * refined come out straight between their points; others keep their kind and run through the draped points.
 */
export function drape<G extends Curves | Points | Mesh>(given: G, body: Surface, options: DrapeOptions, work: Work): { draped: G; missed: number } {
  const landing = new Landing(body, options);
  if (given.type !== 'curves') {
    const { positions, missed } = landed(given.positions, landing, work);
    const draped = given.type === 'mesh' ? refreshNormals({ ...given, positions }, given) : { ...given, positions };
    return { draped: draped as G, missed };
  }
  const refined = options.follow === 'refine' ? refine(given, body, landing, options.tolerance, work) : asBezier(given);
  const { positions, missed } = landed(refined.positions, landing, work);
  const run = throughMoved(refined, positions);
  if (options.follow !== 'refine') return { draped: run as G, missed };
  return { draped: { ...run, kind: new Uint8Array(run.kind.length) } as G, missed };
}

function landed(given: Float32Array, landing: Landing, work: Work): { positions: Float32Array; missed: number } {
  const positions = new Float32Array(given.length);
  let missed = 0;
  for (let i = 0; i < given.length; i += 3) {
    if (i % progressEvery === 0) work.progress(i / given.length);
    if (!landing.land(given[i], given[i + 1], given[i + 2], positions, i)) missed++;
  }
  return { positions, missed };
}

/** How often a span is halved at most. */
const deepest = 18;
/** What the places that are looked at keep of the tolerance; the rest is for those between them. */
const margin = 0.85;

/** The curves with more places, so that straight lines between where they land stay within `tolerance` of where what lies between lands. */
function refine(given: Curves, body: Surface, landing: Landing, tolerance: number, work: Work): Curves {
  const result = new PlacedCurves(given);
  const places = new PlaceList();
  // Looked at so closely that a ridge with a slope of one on either side hides no more between two looks than the margin leaves.
  const grain = grainOf(body);
  for (let c = 0; c < curveCount(given); c++) {
    const spans = spansOf(given, c);
    const closed = given.closed[c] === 1;
    places.clear();
    const follower = new Follower(spans, landing, places, tolerance * margin);
    for (let i = 0; i < spans.count; i++) {
      work.progress((c + i / spans.count) / curveCount(given));
      const pieces = spanLength(spans, i) / Math.min(grain / 4, tolerance * 0.6);
      follower.follow(i, Math.min(deepest - 4, Math.max(2, Math.ceil(Math.log2(pieces)))));
      work.claim({ points: result.pointCount + places.count });
    }
    if (!closed && spans.count) places.push(spans.count - 1, 1);
    if (!spans.count && given.starts[c + 1] > given.starts[c]) places.push(0, 0);
    result.add(c, spans, places, { closed, handles: 'exact', tangents: false });
  }
  const made = result.finish();
  return { ...made, attributes: withAttributes(made.attributes, { handleIn: null, handleOut: null, tangent: null }) };
}

/** Metres of a middling side of the body's triangles. */
function grainOf({ nearest }: Surface): number {
  const { corners, element } = nearest.pieces;
  let sum = 0;
  for (let i = 0; i < element.length; i++) {
    const o = i * 9;
    sum += Math.hypot(corners[o + 3] - corners[o], corners[o + 4] - corners[o + 1], corners[o + 5] - corners[o + 2]);
  }
  return Math.max(sum / element.length, 1e-6);
}

/** Puts places on a curve so that the line between where they land follows the body. */
class Follower {
  private readonly at = new Float64Array(3);

  constructor(
    private readonly spans: Spans,
    private readonly landing: Landing,
    private readonly places: PlaceList,
    private readonly tolerance: number,
  ) {}

  /** Follows one span, looked at in 2^`fine` pieces at first. */
  follow(span: number, fine: number): void {
    const count = 2 ** fine;
    const lands = new Float64Array((count + 1) * 3);
    for (let i = 0; i <= count; i++) this.land(span, i / count, lands, i * 3);
    this.places.push(span, 0);
    this.between(span, lands, 0, count, count);
  }

  private land(span: number, u: number, into: Float64Array, o: number): void {
    spanPoint(this.spans, span, u, this.at, 0);
    this.landing.land(this.at[0], this.at[1], this.at[2], into, o);
  }

  /** Adds the places that are needed after `from` and before `to`, whose lands are known, as all between them are. */
  private between(span: number, lands: Float64Array, from: number, to: number, count: number): void {
    if (to - from === 1) {
      this.finer(span, from / count, to / count, lands.subarray(from * 3, from * 3 + 3), lands.subarray(to * 3, to * 3 + 3), Math.log2(count));
      return;
    }
    let bent = false;
    for (let i = from + 1; i < to && !bent; i++) bent = awayFrom(lands, i, from, to) > this.tolerance;
    const middle = (from + to) >> 1;
    if (bent) {
      this.between(span, lands, from, middle, count);
      this.places.push(span, middle / count);
      this.between(span, lands, middle, to, count);
    }
  }

  /** The same for a piece of which only the ends are known. */
  private finer(span: number, from: number, to: number, a: Float64Array, b: Float64Array, depth: number): void {
    if (depth >= deepest) return;
    const three = new Float64Array(9);
    three.set(a);
    const middle = (from + to) / 2;
    this.land(span, middle, three, 3);
    three.set(b, 6);
    if (!(awayFrom(three, 1, 0, 2) > this.tolerance)) return;
    const own = three.subarray(3, 6);
    this.finer(span, from, middle, a, own, depth + 1);
    this.places.push(span, middle);
    this.finer(span, middle, to, own, b, depth + 1);
  }
}

/** Distance of place `i` from the line between places `a` and `b` of a list. */
function awayFrom(p: Float64Array, i: number, a: number, b: number): number {
  const [dx, dy, dz] = [p[b * 3] - p[a * 3], p[b * 3 + 1] - p[a * 3 + 1], p[b * 3 + 2] - p[a * 3 + 2]];
  const [x, y, z] = [p[i * 3] - p[a * 3], p[i * 3 + 1] - p[a * 3 + 1], p[i * 3 + 2] - p[a * 3 + 2]];
  const squared = dx * dx + dy * dy + dz * dz;
  const f = squared > 0 ? Math.min(1, Math.max(0, (x * dx + y * dy + z * dz) / squared)) : 0;
  return Math.hypot(x - f * dx, y - f * dy, z - f * dz);
}
