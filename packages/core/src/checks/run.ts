import type { Attribute } from '../geometry/attributes.js';
import type { Geometry } from '../geometry/geometry.js';
import { triangleCount, type Mesh } from '../geometry/mesh.js';
import { paced } from '../curves/resample.js';
import { stationsOf } from '../curves/arcLength.js';
import type { Curves } from '../geometry/curves.js';
import type { NodeDefinition, Value, Warning, WarningCode } from '../graph/define.js';
import type { NodeResult, RunResult } from '../graph/evaluator.js';
import type { Plan } from '../graph/plan.js';
import { problemsOf, resultOf } from '../graph/report.js';
import { nodeDefinitions } from '../nodes/index.js';
import { kindOfWarning, type CheckKind, type Finding, type Remedy } from './finding.js';
import { meshFaults, type MeshFault } from './meshes.js';

/** Most findings of one node that are listed. */
const mostPerNode = 30;

interface Checked {
  readonly id: string;
  readonly definition: NodeDefinition;
  readonly result: NodeResult;
  readonly plan: Plan;
  readonly run: RunResult;
}

/** Everything that can be found in a run, node after node: the wrong things first within a node. The steps are small, so that a caller may stop between. */
export function* findings(plan: Plan, run: RunResult): Generator<readonly Finding[]> {
  yield problemsOf(plan, run).flatMap(({ node, message, setting, code }) =>
    node === undefined
      ? []
      : [
          {
            kind: code === 'unequal-lists' ? ('unequal' as const) : ('error' as const),
            level: 'wrong' as const,
            node,
            message,
            place: null,
            remedy: remedyOfError(plan, node, setting, code),
          },
        ],
  );
  for (const id of plan.order) {
    const definition = plan.nodes.get(id)?.definition;
    const result = run.nodes.get(id);
    if (!definition || !result) continue;
    const checked = { id, definition, result, plan, run };
    yield [...warnings(checked), ...notFinite(checked), ...surfaces(checked), ...budget(checked)].slice(0, mostPerNode);
  }
}

/** All findings at once. */
export const allFindings = (plan: Plan, run: RunResult): Finding[] => [...findings(plan, run)].flat();

function remedyOfError(plan: Plan, id: string, setting: string | undefined, code: WarningCode | undefined): Remedy | null {
  const definition = plan.nodes.get(id)?.definition;
  if (code === 'unequal-lists' && definition?.settings['unequal'])
    return { do: 'set', label: 'Begin the shorter list again', node: id, setting: 'unequal', value: 'cycle' };
  if (setting === undefined || !definition?.settings[setting]) return null;
  return { do: 'set', label: `Put ${definition.settings[setting].label} back to its default`, node: id, setting, value: undefined };
}

function warnings({ id, definition, result, plan, run }: Checked): Finding[] {
  // An Output's own word on its budget is said below, with a remedy.
  return result.warnings
    .filter(({ code }) => code !== 'budget')
    .map((warning) => ({
      kind: kindOfWarning[warning.code],
      level: ['pinch', 'self-cross', 'through-body'].includes(warning.code) ? 'wrong' : 'look',
      node: id,
      message: `${warning.message}${warning.remedy ? ` ${warning.remedy}` : ''}`,
      place: placeOfWarning(plan, run, id, warning),
      curve: warning.curve,
      at: warning.at,
      remedy: remedyOfWarning(definition, id, warning, result.settings),
    }));
}

function remedyOfWarning(definition: NodeDefinition, id: string, { code }: Warning, settings: Readonly<Record<string, unknown>>): Remedy | null {
  if (code === 'pinch' && definition.settings['relaxPinch'] && settings['relaxPinch'] !== true)
    return { do: 'set', label: 'Thin it where it pinches', node: id, setting: 'relaxPinch', value: true };
  if ((code === 'parallel-up' || code === 'flip') && definition.type === 'aim.frames' && settings['method'] !== 'minimal')
    return { do: 'set', label: 'Use least-turning frames', node: id, setting: 'method', value: 'minimal' };
  return null;
}

/** Where along which curve a warning points to: the node's own curves, or those that come in. */
function placeOfWarning(plan: Plan, run: RunResult, id: string, { curve, at }: Warning): Finding['place'] {
  if (curve === undefined) return null;
  const wires = plan.nodes.get(id)?.wires ?? [];
  const values: (Value | undefined)[] = [
    ...Object.values(run.nodes.get(id)?.outputs ?? {}),
    ...wires.map((wire) => run.nodes.get(wire.node)?.outputs[wire.output]),
  ];
  const curves = values.find((value): value is Curves => value?.type === 'curves');
  if (!curves || curve + 1 >= curves.starts.length) return null;
  const own = paced(curves);
  const [from, to] = [own.starts[curve], own.starts[curve + 1]];
  if (from === to) return null;
  const stations = stationsOf(own);
  let best = from;
  for (let i = from; i < to; i++) if (Math.abs(stations[i] - (at ?? 0)) < Math.abs(stations[best] - (at ?? 0))) best = i;
  return [own.positions[best * 3], own.positions[best * 3 + 1], own.positions[best * 3 + 2]];
}

/** Geometries that a node makes itself: those that it passes on unchanged were looked at before. */
function ownGeometries({ result, run, plan, id }: Checked): Geometry[] {
  const given = new Set(plan.nodes.get(id)!.wires.flatMap((wire) => Object.values(run.nodes.get(wire.node)?.outputs ?? {})));
  return Object.values(result.outputs).filter((value): value is Geometry => 'attributes' in value && !given.has(value));
}

function notFinite(checked: Checked): Finding[] {
  const before = new Set(
    checked.plan.nodes
      .get(checked.id)!
      .wires.flatMap((wire) => Object.values(resultOf(checked.run.nodes.get(wire.node)) as Record<string, Geometry>))
      .flatMap(({ attributes }) => [...attributes.values()]),
  );
  return ownGeometries(checked).flatMap(({ attributes }) =>
    [...attributes].filter(([, attribute]) => !before.has(attribute)).flatMap(([name, attribute]) => {
      const count = countNotFinite(attribute);
      if (!count) return [];
      const message = `${count} of ${attribute.data.length} numbers of "${name}" are not finite.`;
      return [{ kind: 'not-finite' as const, level: 'wrong' as const, node: checked.id, message, place: null, remedy: null }];
    }),
  ); // prettier-ignore
}

function countNotFinite({ data }: Attribute): number {
  let count = 0;
  for (const value of data) if (!Number.isFinite(value)) count++;
  return count;
}

/** Faults of a mesh that its making node is answerable for. Joined and passed-on meshes were looked at where they were made. */
function surfaces(checked: Checked): Finding[] {
  const { id, definition, result } = checked;
  if (definition.type.startsWith('flow.')) return [];
  const takesMesh = definition.inputs.some(({ kinds }) => kinds.includes('mesh') || kinds.includes('any'));
  return ownGeometries(checked)
    .filter((value): value is Mesh => value.type === 'mesh' && value.corners.length > 0)
    .flatMap((mesh) =>
      meshFaults(mesh)
        // What came in with a mesh is told there, not at every node behind.
        .filter((fault) => !takesMesh || !cameIn(checked, fault))
        .filter((fault) => fault.kind !== 'hole' || canClose(definition, result.settings))
        .map((fault) => ({
          kind: fault.kind as CheckKind,
          level: fault.kind === 'hole' || fault.kind === 'stretch' || fault.kind === 'double' ? ('look' as const) : ('wrong' as const),
          node: id,
          message: fault.message,
          place: fault.place,
          remedy: remedyOfFault(checked, fault),
        })),
    );
}

function cameIn({ plan, run, id }: Checked, fault: MeshFault): boolean {
  return plan.nodes.get(id)!.wires.some((wire) => {
    const value = run.nodes.get(wire.node)?.outputs[wire.output];
    return value?.type === 'mesh' && meshFaults(value).some(({ kind, count }) => kind === fault.kind && count >= fault.count);
  });
}

/** Only a skin that could be closed has holes; sheets, which have columns, have borders. */
const canClose = ({ settings: known }: NodeDefinition, settings: Readonly<Record<string, unknown>>): boolean =>
  !!known['caps'] && !known['columns'] && settings['caps'] === 'open';

function remedyOfFault({ id, definition, result }: Checked, { kind }: MeshFault): Remedy | null {
  switch (kind) {
    case 'inside-out':
      return definition.settings['flip']
        ? { do: 'set', label: 'Flip its faces', node: id, setting: 'flip', value: result.settings['flip'] !== true }
        : { do: 'insert', label: 'Flip its faces', after: id, type: 'mesh.normals', settings: { flip: true } };
    case 'winding':
      return { do: 'insert', label: 'Make faces consistent', after: id, type: 'mesh.normals', settings: { consistent: true } };
    case 'hole':
      return { do: 'set', label: 'Close the ends', node: id, setting: 'caps', value: 'flat' };
    default:
      return null;
  }
}

/** The Output's budget of faces against what it gives; the remedy halves the sides of the heaviest round skin. */
function budget({ id, definition, result, plan, run }: Checked): Finding[] {
  const most = Number(result.settings['budget'] ?? 0);
  if (definition.type !== 'flow.output' || !(most > 0)) return [];
  const mesh = (resultOf(result) as { mesh?: Mesh }).mesh;
  const count = mesh ? triangleCount(mesh) : 0;
  if (count <= most) return [];
  let heaviest: { id: string; sides: number; faces: number } | null = null;
  for (const [node, { settings, out }] of run.nodes) {
    const sides = settings['sides'];
    if (plan.nodes.get(node)?.definition?.family.id === 'skin' && typeof sides === 'number' && sides > 3 && (out.faces ?? 0) > (heaviest?.faces ?? 0))
      heaviest = { id: node, sides, faces: out.faces ?? 0 };
  }
  const label = heaviest && nodeDefinitions.get(plan.nodes.get(heaviest.id)!.node.type)!.label;
  return [
    {
      kind: 'budget',
      level: 'wrong',
      node: id,
      message: `${count.toLocaleString('en-GB')} triangles; the budget is ${most.toLocaleString('en-GB')}.`,
      place: null,
      remedy: heaviest && {
        do: 'set',
        label: `Halve the sides of ${label} (${heaviest.id})`,
        node: heaviest.id,
        setting: 'sides',
        value: Math.max(3, Math.round(heaviest.sides / 2)),
      },
    },
  ];
}
