import { curveCount, type Curves } from '../geometry/curves.js';
import { withAttributes } from '../geometry/attributes.js';
import type { Mesh } from '../geometry/mesh.js';
import type { Points } from '../geometry/points.js';
import { asBezier, throughMoved } from '../curves/evaluate/knots.js';
import { PlacedCurves, PlaceList } from '../curves/evaluate/places.js';
import { spanLength } from '../curves/evaluate/arcLength.js';
import { keptPoints } from '../curves/change/keptPoints.js';
import { spanPoint, spansOf, type Spans } from '../curves/evaluate/spans.js';
import { refreshNormals } from '../mesh/change/normals.js';
import { tick, type Work } from '../base/work.js';
import type { Surface } from '../near/surface.js';
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
    const draped = given.type === 'mesh' ? refreshNormals({ ...given, positions }, given, work) : { ...given, positions };
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
    tick(work, i, given.length);
    if (landing.land(given[i], given[i + 1], given[i + 2], positions, i) < 0) missed++;
  }
  return { positions, missed };
}

/** What the places that are looked at keep of the tolerance; the rest is for those between them. */
const margin = 0.85;

/** The curves with more places, so that straight lines between where they land stay within `tolerance` of where what lies between lands. */
function refine(given: Curves, body: Surface, landing: Landing, tolerance: number, work: Work): Curves {
  const result = new PlacedCurves(given);
  const places = new PlaceList();
  const grain = grainOf(body);
  for (let c = 0; c < curveCount(given); c++) {
    const spans = spansOf(given, c);
    const closed = given.closed[c] === 1;
    const follower = new Follower(spans, landing, places, tolerance);
    places.clear();
    for (let i = 0; i < spans.count; i++) {
      work.progress((c + i / spans.count) / curveCount(given));
      follower.follow(i, spanLength(spans, i), grain);
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

/** Looks of a span at the start, at most. */
const mostLooks = 4096;

/** Puts places on a curve so that straight lines between where they land follow the body. */
class Follower {
  private readonly at = new Float64Array(3);
  private readonly land = new Float64Array(3);
  /** The looks at one span: where along it, where that lands, and on which triangle. */
  private readonly us: number[] = [];
  private readonly lands: number[] = [];
  private readonly kept: number[] = [];

  constructor(
    private readonly spans: Spans,
    private readonly landing: Landing,
    private readonly places: PlaceList,
    private readonly tolerance: number,
  ) {}

  /**
   * Adds the places that one span needs, its start among them. It is looked at four times a triangle, so that no hill is overlooked; between two looks at the
   * same triangle the body is flat, and where there is a ridge between them they come so near to it that it hides no more than the margin leaves.
   */
  follow(span: number, length: number, grain: number): void {
    const { us, lands, kept, tolerance } = this;
    us.length = lands.length = kept.length = 0;
    const count = Math.min(mostLooks, Math.max(4, Math.ceil((4 * length) / grain)));
    const nearest = (tolerance * (1 - margin) * 4) / Math.max(length, 1e-9);
    let before = this.look(span, 0);
    for (let i = 1; i <= count; i++) before = this.between(span, (i - 1) / count, before, i / count, this.triangleAt(span, i / count), nearest);
    keptPoints(lands, 0, us.length, false, tolerance * margin, kept);
    for (const i of kept.slice(0, -1)) this.places.push(span, us[i]);
  }

  private triangleAt(span: number, u: number): number {
    spanPoint(this.spans, span, u, this.at, 0);
    return this.landing.land(this.at[0], this.at[1], this.at[2], this.land);
  }

  private look(span: number, u: number): number {
    const triangle = this.triangleAt(span, u);
    this.us.push(u);
    this.lands.push(this.land[0], this.land[1], this.land[2]);
    return triangle;
  }

  /** Looks between `from` and `to` until both sides of each ridge are known closely, then at `to`; returns the triangle there. */
  private between(span: number, from: number, triangleFrom: number, to: number, triangleTo: number, nearest: number): number {
    const middle = (from + to) / 2;
    // Of a span of no measurable length there is nothing between.
    if (triangleFrom === triangleTo || to - from <= nearest || middle <= from || middle >= to) return this.look(span, to);
    const triangle = this.triangleAt(span, middle);
    this.between(span, from, triangleFrom, middle, triangle, nearest);
    return this.between(span, middle, triangle, to, triangleTo, nearest);
  }
}
