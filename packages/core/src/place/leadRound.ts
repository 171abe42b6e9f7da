import { mixedRows, withAttributes } from '../geometry/attributes.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import { gatherCurves } from '../geometry/gather.js';
import type { Work } from '../base/work.js';
import type { Surface } from '../near/surface.js';
import { sharesAlong, WayRound } from './wayRound.js';

export interface LeadRoundOptions {
  /** Metres from the body. */
  clearance: number;
  /** `taut`: the shortest way from where a stretch begins to where it ends; `aside`: what is in the body goes straight out to one side. */
  way: 'taut' | 'aside';
}

export interface LedRound {
  readonly curves: Curves;
  /** The curves of stretches for which no way was found: they stay as they were. */
  readonly stuck: readonly number[];
}

/**
 * Straight curves led round a body: each stretch that passes through it, or nearer to it than the clearance (metres), is replaced by a way round from the last
 * point before it to the first behind it. Ends of open curves may lie on the body. New points have the values of the stretch at
 * the same share of its length; directions are dropped.
 */
export function leadRound(given: Curves, body: Surface, { clearance, way: how }: LeadRoundOptions, work: Work): LedRound {
  const way = new WayRound(body, clearance);
  const positions: number[] = [];
  /** Between which given points each new one lies. */
  const [a, b, share]: number[][] = [[], [], []];
  const starts = [0];
  const stuck: number[] = [];
  const p = given.positions;
  const at = (i: number): Float32Array => p.subarray(i * 3, i * 3 + 3);
  const put = (i: number, j = i, part = 0, place: ArrayLike<number> = at(i)): void => {
    a.push(i);
    b.push(j);
    share.push(part);
    positions.push(place[0], place[1], place[2]);
  };
  for (let c = 0; c < curveCount(given); c++) {
    work.progress(c / curveCount(given));
    const from = given.starts[c];
    const n = given.starts[c + 1] - from;
    const closed = given.closed[c] === 1 && n > 2;
    const [first, last] = closed || !n ? [null, null] : [at(from), at(from + n - 1)];
    const free = Array.from({ length: closed ? n : Math.max(0, n - 1) }, (_, i) => way.isPieceFree(at(from + i), at(from + ((i + 1) % n)), first, last));
    // A closed curve begins behind a stretch, so that none runs over its beginning.
    const begin = closed ? free.findIndex((own, i) => own && !free[(i + n - 1) % n]) : 0;
    const order = Array.from({ length: closed ? n + 1 : n }, (_, i) => from + ((Math.max(0, begin) + i) % n));
    for (let i = 0; i < order.length; i++) {
      if (i < n || !closed) put(order[i]);
      let end = i;
      while (end + 1 < order.length && !free[order[end] - from]) end++;
      if (end === i) continue;
      const touching = [!closed && i === 0, !closed && end === n - 1] as const;
      const stretch = (): Float64Array => Float64Array.from(order.slice(i, end + 1).flatMap((j) => [...at(j)]));
      const round = order[i] === order[end] ? null : how === 'taut' ? way.round(at(order[i]), at(order[end]), work, touching) : way.aside(stretch(), touching);
      if (round) {
        const [old, made] = [sharesAlong(stretch()), sharesAlong(round)];
        for (let j = 1, k = 0; j + 1 < made.length; j++) {
          while (k + 2 < old.length && old[k + 1] <= made[j]) k++;
          const part = old[k + 1] > old[k] ? (made[j] - old[k]) / (old[k + 1] - old[k]) : 0;
          put(order[i + k], order[i + k + 1], part, round.subarray(j * 3, j * 3 + 3));
        }
      } else {
        stuck.push(c);
        for (let j = i + 1; j < end; j++) put(order[j]);
      }
      i = end - 1;
    }
    starts.push(a.length);
    work.claim({ points: a.length });
  }
  const curves = gatherCurves(given, { points: a, starts: Uint32Array.from(starts), sources: Array.from(given.closed.keys()), closed: given.closed });
  const mixed = [...given.attributes].flatMap(([name, each]) =>
    each.carrier === 'point' ? [[name, { ...each, data: mixedRows(each, { a, b, share }) }]] : [],
  );
  const attributes = withAttributes(curves.attributes, { ...Object.fromEntries(mixed), tangent: null, normal: null, handleIn: null, handleOut: null });
  return { curves: { ...curves, positions: Float32Array.from(positions), attributes }, stuck };
}
