import {
  bendingOf,
  computeFrames,
  curveCount,
  curveLengths,
  defaultFrames,
  elementsOf,
  fieldAt,
  framesOf,
  nodeDefinitions,
  paced,
  resolveVarying,
  stationsOf,
  type Curves,
  type FilaxisDocument,
  type NodeResult,
  type NumberSetting,
  type Plan,
  type RunResult,
  type Varying,
} from '@filaxis/core';
import type { PathStripData, Shown, StripOther, StripRamp } from '@filaxis/protocol';
import { valuesOf } from './colour';

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

/** Most places of a curve in the strip: more than it has pixels. */
const mostPlaces = 4000;

/** Most other curves that are drawn behind the chosen one; of more, every n-th. */
const mostOthers = 40;

/** Unrolls one of the curves of the sources; null when there is none. */
export function unroll(plan: Plan, run: RunResult, sources: readonly PathSource[], { curve: wanted, stripName, stripOthers }: Shown): PathStripData | null {
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
  const values = valuesAlong(plan, run, source, curves, stripName);
  const own = rowsOf(curves, c, values);
  const [from, to] = [curves.starts[c], curves.starts[c + 1]];
  const closed = curves.closed[c] === 1;
  const step = stripStep(to - from + (closed ? 1 : 0));
  const axis = (k: number): Float32Array => {
    const along = new Float32Array(to - from);
    for (let i = 0; i < along.length; i++) along[i] = curves.positions[(from + i) * 3 + k];
    return thinned(ended(along, closed));
  };
  const [x, y, z] = [axis(0), axis(1), axis(2)];
  const positions = new Float32Array(x.length * 3);
  for (let i = 0; i < x.length; i++) positions.set([x[i], y[i], z[i]], i * 3);
  const length = curveLengths(curves)[c];
  const others = stripOthers ? sampled(curveCount(curves), c).map((other) => rowsOf(curves, other, values)) : [];
  return {
    curve,
    curves: total,
    node: source.node,
    length,
    closed,
    ...own,
    attribute: own.attribute && stripName !== null ? { name: stripName, values: own.attribute } : null,
    step,
    positions,
    roll: thinned(ended(rollAlong(curves, c), closed)),
    v: values.uvScale === null ? null : own.s.map((s) => (values.uvScale! > 0 ? s / values.uvScale! : length > 0 ? s / length : 0)),
    names: elementsOf(curves, 'point').scope.names,
    ramp: values.ramp,
    others,
    warnings: source.skin ? (run.nodes.get(source.skin)?.warnings ?? []).filter((warning) => warning.curve === c) : [],
  };
}

/** Other curves than `own`, evenly chosen. */
function sampled(count: number, own: number): number[] {
  const step = Math.max(1, Math.ceil((count - 1) / mostOthers));
  return Array.from({ length: count }, (_, c) => c).filter((c) => c !== own && c % step === 0);
}

/** Values at all points of the curves that the strip shows. */
interface Along {
  readonly radius: Float32Array | null;
  readonly curvature: Float32Array;
  readonly attribute: Float32Array | null;
  readonly ramp: StripRamp | null;
  /** Metres per tile of the skin, 0: fitted; null: no skin. */
  readonly uvScale: number | null;
}

function valuesAlong(plan: Plan, run: RunResult, source: PathSource, curves: Curves, stripName: string | null): Along {
  const attribute = stripName === null ? null : valuesOf(curves, 'point', stripName);
  const curvature = bendingOf(curves).curvature;
  const skin = source.skin === null ? null : plan.document.nodes.find((node) => node.id === source.skin);
  const result = skin ? run.nodes.get(skin.id) : undefined;
  const known = skin && thickness[skin.type];
  const uvScale = skin && typeof result?.settings['uvScale'] === 'number' ? result.settings['uvScale'] : null;
  if (!skin || !known || !result) return { attribute, curvature, radius: null, ramp: null, uvScale };
  const [key, factor] = known;
  const value = result.settings[key] as Varying | undefined;
  if (value === undefined) return { attribute, curvature, radius: null, ramp: null, uvScale };
  const setting = nodeDefinitions.get(skin.type)!.settings[key] as NumberSetting;
  const isRamp = typeof value === 'object' && 'ramp' in value && (value.over === undefined || value.over === 't' || value.over === 's');
  const ramp = isRamp ? { node: skin.id, setting: key, value, factor, min: setting.min ?? -Infinity, max: setting.max ?? Infinity } : null;
  try {
    const field = resolveVarying(value, curves, 'point');
    const radius = Float32Array.from({ length: curves.positions.length / 3 }, (_, i) => factor * fieldAt(field, i));
    return { attribute, curvature, radius, ramp, uvScale };
  } catch {
    // A value that cannot be worked out is told at its node.
    return { attribute, curvature, radius: null, ramp, uvScale };
  }
}

/** A closed curve comes back to its first point, so that its last piece is unrolled too. */
const ended = (values: Float32Array, closed: boolean): Float32Array => (closed ? Float32Array.from([...values, values[0]]) : values);

/** Every how many points of a curve the strip has a place. */
const stripStep = (count: number): number => Math.max(1, Math.ceil(count / mostPlaces));

/** Every n-th value, the last one with them; `most` keeps the greatest of each stretch instead, so that no peak is lost. */
function thinned(values: Float32Array, most = false): Float32Array {
  const step = stripStep(values.length);
  if (step === 1) return values;
  const count = Math.ceil((values.length - 1) / step) + 1;
  return Float32Array.from({ length: count }, (_, k) => {
    const i = Math.min(values.length - 1, k * step);
    return most ? values.subarray(i, Math.min(values.length, i + step)).reduce((a, b) => Math.max(a, b), 0) : values[i];
  });
}

function rowsOf(curves: Curves, c: number, along: Along): StripOther {
  const { s, radius, curvature, spacing, attribute } = allRowsOf(curves, c, along);
  return { s: thinned(s), radius: radius && thinned(radius), curvature: thinned(curvature, true), spacing: thinned(spacing, true), attribute: attribute && thinned(attribute) }; // prettier-ignore
}

function allRowsOf(curves: Curves, c: number, { radius, curvature, attribute }: Along): StripOther {
  const [from, to] = [curves.starts[c], curves.starts[c + 1]];
  const closed = curves.closed[c] === 1;
  const stations = Array.from(stationsOf(curves).subarray(from, to));
  const s = Float32Array.from(closed ? [...stations, curveLengths(curves)[c]] : stations);
  const part = (values: Float32Array): Float32Array => ended(values.slice(from, to), closed);
  const spacing = s.map((at, i) => (i + 1 < s.length ? s[i + 1] - at : i ? at - s[i - 1] : 0));
  return { s, radius: radius && part(radius), curvature: part(curvature), spacing, attribute: attribute && part(attribute) };
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
