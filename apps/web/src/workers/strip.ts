import {
  chord,
  computeFrames,
  curveCount,
  curveLengths,
  defaultFrames,
  fieldAt,
  framesOf,
  nodeDefinitions,
  paced,
  resolveVarying,
  stationsOf,
  type Curves,
  type FilaxisDocument,
  type NodeResult,
  type Plan,
  type RunResult,
  type Varying,
} from '@filaxis/core';
import type { PathStripData, Shown } from '@filaxis/protocol';

/** Curves that the strip can unroll: whose they are, and which skin runs along them. */
export interface PathSource {
  readonly node: string;
  readonly curves: Curves;
  readonly skin: string | null;
}

/** Skins, with the setting that gives their thickness and the factor to their radius; null: no setting alone tells it. */
const thickness: Readonly<Record<string, readonly [setting: string, factor: number] | null>> = {
  'skin.sweep': null,
  'skin.tube': ['radius', 1],
  'skin.rope': ['diameter', 0.5],
  'skin.ribbon': ['width', 0.5],
};

const curvesOf = (result: NodeResult | undefined): Curves | null => {
  const value = result?.outputs['curves'] ?? result?.outputs['any'];
  return value?.type === 'curves' && value.positions.length ? value : null;
};

/** The curves nearest before the chosen node (or its own), or before the outputs when none is chosen. */
export function pathSources(plan: Plan, run: RunResult, shown: Shown): PathSource[] {
  const { document } = plan;
  const roots = shown.chosen ? [shown.chosen] : shown.peek ? [shown.peek] : document.nodes.filter(({ type }) => type === 'flow.output').map(({ id }) => id);
  const found: PathSource[] = [];
  const seen = new Set<string>();
  const visit = (id: string, skin: string | null): void => {
    if (seen.has(id)) return;
    seen.add(id);
    const curves = curvesOf(run.nodes.get(id));
    if (curves) {
      found.push({ node: id, curves, skin: skin ?? skinAfter(document, id) });
      return;
    }
    const type = document.nodes.find((node) => node.id === id)?.type ?? '';
    for (const wire of document.wires) if (wire.to[0] === id) visit(wire.from[0], type in thickness ? id : skin);
  };
  roots.forEach((id) => visit(id, null));
  return found;
}

/** The first skin that the curves of a node run into. */
function skinAfter(document: FilaxisDocument, from: string): string | null {
  const queue = [from];
  const seen = new Set(queue);
  for (const id of queue)
    for (const wire of document.wires) {
      if (wire.from[0] !== id || seen.has(wire.to[0])) continue;
      const type = document.nodes.find((node) => node.id === wire.to[0])?.type ?? '';
      if (type in thickness) return wire.to[0];
      if (nodeDefinitions.get(type)?.outputs.some((port) => port.kind === 'curves' || port.kind === 'any')) queue.push(wire.to[0]);
      seen.add(wire.to[0]);
    }
  return null;
}

/** Unrolls one of the curves of the sources; null when there is none. */
export function unroll(
  plan: Plan,
  run: RunResult,
  sources: readonly PathSource[],
  wanted: number,
  dials: Readonly<Record<string, unknown>>,
): PathStripData | null {
  const total = sources.reduce((sum, source) => sum + curveCount(source.curves), 0);
  if (!total) return null;
  const curve = Math.min(Math.max(0, wanted), total - 1);
  let c = curve;
  let source = sources[0];
  for (source of sources) {
    if (c < curveCount(source.curves)) break;
    c -= curveCount(source.curves);
  }
  const curves = paced(source.curves);
  const from = curves.starts[c];
  const to = curves.starts[c + 1];
  const skinNode = plan.document.nodes.find((node) => node.id === source.skin);
  const radius = skinNode ? radiusAlong(curves, skinNode.type, skinNode.settings ?? {}, dials) : null;
  const warnings = source.skin ? (run.nodes.get(source.skin)?.warnings ?? []).filter((warning) => warning.curve === c) : [];
  const length = curveLengths(curves)[c];
  const closed = curves.closed[c] === 1;
  // A closed curve comes back to its first point, so that its last piece is unrolled too.
  const ended = (values: Float32Array, last: ArrayLike<number>): Float32Array => (closed ? Float32Array.from([...values, ...Array.from(last)]) : values);
  const round = (values: Float32Array): Float32Array => ended(values, values.subarray(0, 1));
  const positions = curves.positions.slice(from * 3, to * 3);
  return {
    curve,
    curves: total,
    node: source.node,
    length,
    closed,
    s: ended(Float32Array.from(stationsOf(curves).subarray(from, to)), [length]),
    positions: ended(positions, positions.subarray(0, 3)),
    radius: radius && round(radius.slice(from, to)),
    roll: round(rollAlong(curves, c)),
    curvature: round(curvatureAlong(curves, c)),
    warnings,
  };
}

/** Radius of the skin at every point of the curves, or null when it cannot be told. */
function radiusAlong(curves: Curves, type: string, settings: Readonly<Record<string, unknown>>, dials: Readonly<Record<string, unknown>>): Float32Array | null {
  const known = thickness[type];
  if (!known) return null;
  const [key, factor] = known;
  const given = settings[key] ?? nodeDefinitions.get(type)!.settings[key].default;
  const value = typeof given === 'object' && given !== null && 'dial' in given ? dials[(given as { dial: string }).dial] : given;
  if (typeof value !== 'number' && !(typeof value === 'object' && value !== null && 'ramp' in value)) return null;
  const field = resolveVarying(value as Varying, curves, 'point');
  return Float32Array.from({ length: curves.positions.length / 3 }, (_, i) => factor * fieldAt(field, i));
}

/** Degrees from the least-turning frame (started like the curve's own) to the curve's own, −180…180. */
function rollAlong(curves: Curves, c: number): Float32Array {
  const own = framesOf(curves);
  const o = curves.starts[c] * 3;
  const least = computeFrames(curves, { ...defaultFrames, start: [own.normal[o], own.normal[o + 1], own.normal[o + 2]], spreadClosure: false });
  return Float32Array.from({ length: curves.starts[c + 1] - curves.starts[c] }, (_, i) => {
    const a = o + i * 3;
    const [tx, ty, tz] = own.tangent.subarray(a, a + 3);
    const [mx, my, mz] = least.normal.subarray(a, a + 3);
    const [nx, ny, nz] = own.normal.subarray(a, a + 3);
    const sine = tx * (my * nz - mz * ny) + ty * (mz * nx - mx * nz) + tz * (mx * ny - my * nx);
    return (Math.atan2(sine, mx * nx + my * ny + mz * nz) * 180) / Math.PI;
  });
}

/** Curvature at each point, 1/m: 2·tan(θ/2) over the mean of the neighbouring chords; open ends take their neighbour's. */
function curvatureAlong(curves: Curves, c: number): Float32Array {
  const p = curves.positions;
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  const closed = curves.closed[c] === 1;
  const at = (i: number): number => {
    const [a, b, d] = [from + ((i + count - 1) % count), from + i, from + ((i + 1) % count)];
    const [before, after] = [chord(p, a, b), chord(p, b, d)];
    if (!(before > 0 && after > 0)) return 0;
    let dot = 0;
    for (let k = 0; k < 3; k++) dot += (p[b * 3 + k] - p[a * 3 + k]) * (p[d * 3 + k] - p[b * 3 + k]);
    const turn = Math.acos(Math.min(1, Math.max(-1, dot / (before * after))));
    return Math.min(1e4, (2 * Math.tan(turn / 2)) / ((before + after) / 2));
  };
  const inner = (i: number): number => (closed ? i : Math.min(count - 2, Math.max(1, i)));
  return Float32Array.from({ length: count }, (_, i) => (count > 2 ? at(inner(i)) : 0));
}
