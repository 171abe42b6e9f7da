import type { Attribute } from '../geometry/attributes.js';
import type { Geometry } from '../geometry/geometry.js';
import { triangleCount, type Mesh } from '../geometry/mesh.js';
import { paced } from '../curves/change/resample.js';
import { stationsOf } from '../curves/evaluate/arcLength.js';
import type { Curves } from '../geometry/curves.js';
import type { NodeDefinition, Value, Warning } from '../definition/define.js';
import type { RunResult } from '../evaluate/result.js';
import type { Plan } from '../evaluate/plan.js';
import { unbounded, type Work } from '../base/work.js';
import { problemsOf, resultOf } from '../evaluate/report.js';
import { labelById } from '../document/documentIndex.js';
import { kindOfWarning, type CheckKind, type Finding, type Remedy } from './finding.js';
import { meshFaults, type MeshFault } from './meshes.js';
import { remedyOfAttribute, remedyOfError, remedyOfFault, remediesOfWarning, type Answerable } from './remedies.js';

/** Most findings of one node that are listed. */
const mostPerNode = 30;

interface Checked extends Answerable {
  readonly plan: Plan;
  readonly run: RunResult;
  readonly work: Work;
}

/**
 * Everything that can be found in a run, node after node: the wrong things first within a node. A caller may stop between two nodes, or within one by what
 * `work` throws.
 */
export function* findings(plan: Plan, run: RunResult, work: Work = unbounded): Generator<readonly Finding[]> {
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
            remedies: listed(remedyOfError(plan.nodes.get(node)?.definition, node, setting, code)),
          },
        ],
  );
  for (const id of plan.order) {
    const definition = plan.nodes.get(id)?.definition;
    const result = run.nodes.get(id);
    if (!definition || !result) continue;
    const checked = { id, definition, node: plan.nodes.get(id)!.node, result, plan, run, work };
    yield [...warnings(checked), ...notFinite(checked), ...surfaces(checked), ...budget(checked)].slice(0, mostPerNode);
  }
}

/** All findings at once. */
export const allFindings = (plan: Plan, run: RunResult): Finding[] => [...findings(plan, run)].flat();

const listed = (remedy: Remedy | null): Remedy[] => (remedy ? [remedy] : []);

function warnings({ id, definition, node, result, plan, run }: Checked): Finding[] {
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
      remedies: remediesOfWarning({ id, definition, node, result }, warning),
    }));
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

/**
 * Whether the nodes behind mend a fault of what `id` makes: every one that takes it only changes what passes through it, and the fault is gone behind it,
 * at once or some nodes on.
 */
function mendedBehind({ plan, run }: Pick<Checked, 'plan' | 'run'>, id: string, made: Geometry, gone: (value: Geometry) => boolean): boolean {
  const takers = [...plan.nodes].flatMap(([taker, { definition, wires }]) =>
    wires.filter((wire) => wire.node === id && run.nodes.get(id)?.outputs[wire.output] === made).map(({ port }) => ({ taker, definition, port })),
  );
  return (
    takers.length > 0 &&
    takers.every(({ taker, definition, port }) => {
      if (!definition?.passes || definition.inputs[0].name !== port) return false;
      const value = run.nodes.get(taker)?.outputs[definition.outputs[0].name];
      return value?.type === made.type && (gone(value) || mendedBehind({ plan, run }, taker, value, gone));
    })
  );
}

function notFinite(checked: Checked): Finding[] {
  const before = new Set(
    checked.plan.nodes
      .get(checked.id)!
      .wires.flatMap((wire) => Object.values(resultOf(checked.run.nodes.get(wire.node)) as Record<string, Geometry>))
      .flatMap(({ attributes }) => [...attributes.values()]),
  );
  return ownGeometries(checked).flatMap((made) =>
    [...made.attributes].filter(([, attribute]) => !before.has(attribute)).flatMap(([name, attribute]) => {
      const count = countNotFinite(attribute);
      const isGood = ({ attributes }: Geometry): boolean => !attributes.has(name) || countNotFinite(attributes.get(name)!) === 0;
      if (!count || mendedBehind(checked, checked.id, made, isGood)) return [];
      const message = `${count} of ${attribute.data.length} numbers of "${name}" are not finite.`;
      return [{ kind: 'not-finite' as const, level: 'wrong' as const, node: checked.id, message, place: null, remedies: listed(remedyOfAttribute(checked.id, name, attribute)) }];
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
      meshFaults(mesh, checked.work)
        // What came in with a mesh is told there, not at every node behind.
        .filter((fault) => !takesMesh || !cameIn(checked, fault))
        .filter((fault) => fault.kind !== 'hole' || canClose(definition, result.settings))
        .filter(
          ({ kind }) =>
            !mendedBehind(checked, id, mesh, (value) => value.type === 'mesh' && !meshFaults(value, checked.work).some((fault) => fault.kind === kind)),
        )
        .map((fault) => ({
          kind: fault.kind,
          level: (['hole', 'stretch', 'double', 'shading'] as readonly CheckKind[]).includes(fault.kind) ? ('look' as const) : ('wrong' as const),
          node: id,
          message: fault.message,
          place: fault.place,
          remedies: listed(remedyOfFault(checked, fault.kind)),
        })),
    );
}

function cameIn({ plan, run, id, work }: Checked, fault: MeshFault): boolean {
  return plan.nodes.get(id)!.wires.some((wire) => {
    const value = run.nodes.get(wire.node)?.outputs[wire.output];
    return value?.type === 'mesh' && meshFaults(value, work).some(({ kind, count }) => kind === fault.kind && count >= fault.count);
  });
}

/** Only a skin that could be closed has holes; sheets, which have columns, have borders. */
const canClose = ({ settings: known }: NodeDefinition, settings: Readonly<Record<string, unknown>>): boolean =>
  !!known['caps'] && !known['columns'] && settings['caps'] === 'open';

/** The Output's budget of faces against what it gives; the remedy halves the sides of the heaviest round skin. */
function budget({ id, definition, result, plan, run }: Checked): Finding[] {
  const most = Number(result.settings['budget'] ?? 0);
  if (definition.role !== 'output' || !(most > 0)) return [];
  const mesh = (resultOf(result) as { mesh?: Mesh }).mesh;
  const count = mesh ? triangleCount(mesh) : 0;
  if (count <= most) return [];
  let heaviest: { id: string; sides: number; faces: number } | null = null;
  for (const [node, { settings, out }] of run.nodes) {
    const sides = settings['sides'];
    if (plan.nodes.get(node)?.definition?.family.id === 'skin' && typeof sides === 'number' && sides > 3 && (out.faces ?? 0) > (heaviest?.faces ?? 0))
      heaviest = { id: node, sides, faces: out.faces ?? 0 };
  }
  const label = heaviest && labelById(plan.document, heaviest.id);
  return [
    {
      kind: 'budget',
      level: 'wrong',
      node: id,
      message: `${count.toLocaleString('en-GB')} triangles; the budget is ${most.toLocaleString('en-GB')}.`,
      place: null,
      remedies: listed(
        heaviest && {
          do: 'set',
          label: `Halve the sides of ${label} (${heaviest.id})`,
          node: heaviest.id,
          setting: 'sides',
          value: Math.max(3, Math.round(heaviest.sides / 2)),
        },
      ),
    },
  ];
}
