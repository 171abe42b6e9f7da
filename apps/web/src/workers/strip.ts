import {
  curveCount,
  elementsOf,
  fieldAt,
  definitionById,
  definitionOf,
  indexOf,
  outputsOf,
  paced,
  resolveVarying,
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
import { placesOf, shapeOf, stripStep } from './pathShape';

/** Curves that the strip can unroll: whose they are, and which skin runs along them. */
export interface PathSource {
  readonly node: string;
  readonly curves: Curves;
  readonly skin: string | null;
}

/** Whether a node is a skin along curves. */
const isSkin = (document: FilaxisDocument, id: string): boolean => definitionById(document, id)?.thickness !== undefined;

const curvesOf = (result: NodeResult | undefined): Curves | null => {
  const value = result?.outputs['curves'] ?? result?.outputs['any'];
  return value?.type === 'curves' && value.positions.length ? value : null;
};

/** The curves nearest before the chosen node (or its own), or before the outputs when none is chosen. */
export function pathSources(plan: Plan, run: RunResult, shown: Shown): PathSource[] {
  const { document } = plan;
  const roots = shown.chosen ? [shown.chosen] : shown.peek ? [shown.peek] : outputsOf(document).map(({ id }) => id);
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
    for (const wire of indexOf(document).wiresTo.get(id) ?? []) visit(wire.from[0], isSkin(document, id) ? id : skin);
  };
  roots.forEach((id) => visit(id, null));
  return found;
}

/** The first skin that the curves of a node run into. */
function skinAfter(document: FilaxisDocument, from: string): string | null {
  const queue = [from];
  const seen = new Set(queue);
  for (const id of queue)
    for (const wire of indexOf(document).wiresFrom.get(id) ?? []) {
      if (seen.has(wire.to[0])) continue;
      if (isSkin(document, wire.to[0])) return wire.to[0];
      if (definitionById(document, wire.to[0])?.outputs.some((port) => port.kind === 'curves' || port.kind === 'any')) queue.push(wire.to[0]);
      seen.add(wire.to[0]);
    }
  return null;
}

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
  const curves = pacedOnce(source.curves);
  const values = valuesAlong(plan, run, source, curves, stripName);
  const { closed, length, ...shape } = shapeOf(curves, c);
  const { radius, attribute } = rowsOf(curves, c, values);
  return {
    curve,
    curves: total,
    node: source.node,
    length,
    closed,
    ...shape,
    radius,
    attribute: attribute && stripName !== null ? { name: stripName, values: attribute } : null,
    step: stripStep(curves.starts[c + 1] - curves.starts[c] + (closed ? 1 : 0)),
    v: values.uvScale === null ? null : shape.s.map((s) => (values.uvScale! > 0 ? s / values.uvScale! : length > 0 ? s / length : 0)),
    names: elementsOf(curves, 'point').scope.names,
    ramp: values.ramp,
    others: stripOthers ? sampled(curveCount(curves), c).map((other) => rowsOf(curves, other, values)) : [],
    warnings: source.skin ? (run.nodes.get(source.skin)?.warnings ?? []).filter((warning) => warning.curve === c) : [],
  };
}

const pacedCurves = new WeakMap<Curves, Curves>();

/** Paced curves, the same ones each time, so that what is worked out of them is kept. */
function pacedOnce(curves: Curves): Curves {
  let result = pacedCurves.get(curves);
  if (!result) pacedCurves.set(curves, (result = paced(curves)));
  return result;
}

/** Other curves than `own`, evenly chosen. */
function sampled(count: number, own: number): number[] {
  const step = Math.max(1, Math.ceil((count - 1) / mostOthers));
  return Array.from({ length: count }, (_, c) => c).filter((c) => c !== own && c % step === 0);
}

/** Values at all points of the curves that the strip shows. */
interface Along {
  readonly radius: Float32Array | null;
  readonly attribute: Float32Array | null;
  readonly ramp: StripRamp | null;
  /** Metres per tile of the skin, 0: fitted; null: no skin. */
  readonly uvScale: number | null;
}

function valuesAlong(plan: Plan, run: RunResult, source: PathSource, curves: Curves, stripName: string | null): Along {
  const attribute = stripName === null ? null : valuesOf(curves, 'point', stripName);
  const skin = source.skin === null ? null : plan.document.nodes.find((node) => node.id === source.skin);
  const result = skin ? run.nodes.get(skin.id) : undefined;
  const definition = skin && definitionOf(plan.document, skin);
  const known = definition?.thickness;
  const uvScale = skin && typeof result?.settings['uvScale'] === 'number' ? result.settings['uvScale'] : null;
  if (!skin || !known || !result) return { attribute, radius: null, ramp: null, uvScale };
  const { setting: key, toRadius: factor } = known;
  const value = result.settings[key] as Varying | undefined;
  if (value === undefined) return { attribute, radius: null, ramp: null, uvScale };
  const setting = definition.settings[key] as NumberSetting;
  const isRamp = typeof value === 'object' && 'ramp' in value && (value.over === undefined || value.over === 't' || value.over === 's');
  const ramp = isRamp ? { node: skin.id, setting: key, value, factor, min: setting.min ?? -Infinity, max: setting.max ?? Infinity } : null;
  try {
    const field = resolveVarying(value, curves, 'point');
    const radius = new Float32Array(curves.positions.length / 3);
    for (let i = 0; i < radius.length; i++) radius[i] = factor * fieldAt(field, i);
    return { attribute, radius, ramp, uvScale };
  } catch {
    // A value that cannot be worked out is told at its node.
    return { attribute, radius: null, ramp, uvScale };
  }
}

function rowsOf(curves: Curves, c: number, { radius, attribute }: Along): StripOther {
  const { s, bends, spacing, closed } = shapeOf(curves, c);
  const places = (values: Float32Array | null): Float32Array | null => values && placesOf(values, curves.starts[c], curves.starts[c + 1], closed);
  return { s, bends, spacing, radius: places(radius), attribute: places(attribute) };
}
