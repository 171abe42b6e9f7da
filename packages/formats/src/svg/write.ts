import { curveCount, curvesBounds, paced, type GeometrySet } from '@filaxis/core';
import { FormatError } from '../errors.js';
import { originOf } from '../far.js';
import { TextSink } from '../textSink.js';
import type { Out } from '../writeOptions.js';

/** The planes that curves can be drawn in: the axes that run to the right and upwards on paper. */
const plans = { plan: [0, 2, -1], front: [0, 1, 1] } as const;

/**
 * A result's curves in plan as an SVG drawing: seen from above, X to the right and −Z upwards, one unit a metre; curves that lie in an upright plane are drawn from the
 * front. Straight curves are lines, smooth ones the cubic spans they are made of.
 * @throws FormatError when the result has no curves.
 */
export function writeSvg(set: GeometrySet, out: Out): void {
  if (!set.curves?.positions.length) throw new FormatError('There is nothing to write: SVG holds curves, and the result has none.', 'format');
  const curves = paced(set.curves);
  const bounds = curvesBounds(curves)!;
  const size = bounds.max.map((value, k) => value - bounds.min[k]);
  const [across, up, sign] = size[2] < 1e-6 * Math.max(...size) && size[1] > 0 ? plans.front : plans.plan;
  const origin = originOf(curves.attributes);
  // Far away the numbers need digits to match.
  const digits = origin.some((value) => value !== 0) ? 12 : 9;
  const number = (value: number): string => String(Number(value.toPrecision(digits)));
  const p = curves.positions;
  const [into, leaving] = ['handleIn', 'handleOut'].map((name) => curves.attributes.get(name)?.data);
  const place = (i: number, handle?: Float32Array): string =>
    `${number(p[i * 3 + across] + origin[across] + (handle?.[i * 3 + across] ?? 0))} ${number(-sign * (p[i * 3 + up] + origin[up] + (handle?.[i * 3 + up] ?? 0)))}`;
  const [x0, x1] = [bounds.min[across] + origin[across], bounds.max[across] + origin[across]];
  const edges = [-sign * (bounds.min[up] + origin[up]), -sign * (bounds.max[up] + origin[up])];
  const [y0, y1] = [Math.min(...edges), Math.max(...edges)];
  const margin = Math.max(x1 - x0, y1 - y0) * 0.02 || 1;
  const box = [x0 - margin, y0 - margin, x1 - x0 + 2 * margin, y1 - y0 + 2 * margin].map(number).join(' ');
  const sink = new TextSink(out);
  sink.line(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box}" fill="none" stroke="black" stroke-width="${number(margin / 10)}">`);
  for (let c = 0; c < curveCount(curves); c++) {
    const [from, to] = [curves.starts[c], curves.starts[c + 1]];
    if (to - from < 2) continue;
    const parts = [`M${place(from)}`];
    for (let i = from; i < (curves.closed[c] ? to : to - 1); i++) {
      const next = i + 1 < to ? i + 1 : from;
      if (curves.kind[c]) parts.push(`C${place(i, leaving)} ${place(next, into)} ${place(next)}`);
      else if (next !== from) parts.push(`L${place(next)}`);
    }
    if (curves.closed[c]) parts.push('Z');
    sink.line(`  <path d="${parts.join('')}"/>`);
  }
  sink.line('</svg>');
  sink.end();
}
