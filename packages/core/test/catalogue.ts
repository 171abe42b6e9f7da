/** Every node by itself, with inputs of every kind that it takes: for tests that new nodes are in by being there. */
import {
  currentEdition,
  Evaluator,
  curvesFromLists,
  grid,
  makePoints,
  nodeDefinitions,
  Plan,
  requireDocument,
  type Curves,
  type EvaluatorOptions,
  type GeometrySet,
  type NodeDefinition,
  type NodeResult,
  type RunRequest,
  type Setting,
} from '../src/index.js';

/** How large what comes in is. */
export interface InputSize {
  readonly curves: number;
  /** Points of each curve. */
  readonly points: number;
  /** Divisions of the sheet, both ways. */
  readonly sheet: number;
}
export const smallInput: InputSize = { curves: 2, points: 7, sheet: 4 };
export const oneElement: InputSize = { curves: 1, points: 1, sheet: 1 };

/** Wavy curves beside each other, in space. */
function wavy({ curves, points }: InputSize): Curves {
  return curvesFromLists(
    Array.from({ length: curves }, (_, c) =>
      Array.from({ length: points }, (_, i) => [(i / Math.max(1, points - 1)) * 6, 0.5 + 0.3 * Math.sin(i * 0.9 + c), c * 0.4 + 0.2 * Math.cos(i * 0.7)]),
    ),
  );
}

const files = { curves: 'c'.repeat(64), mesh: 'd'.repeat(64), points: 'e'.repeat(64), post: 'f'.repeat(64) } as const;

function contents(size: InputSize): Readonly<Record<string, GeometrySet>> {
  const curves = wavy(size);
  return {
    [files.curves]: { curves },
    [files.mesh]: { mesh: grid([4, 4], [size.sheet, size.sheet]) },
    [files.points]: { points: makePoints(curves.positions.slice()) },
    [files.post]: { mesh: grid([0.2, 0.2], [2, 2]) },
  };
}

type Source = 'curves' | 'mesh' | 'points' | 'copies';
const sourceNodes: Readonly<Record<Source, readonly { id: string; type: string; settings?: object }[]>> = {
  curves: [{ id: 'curves', type: 'lay.importCurves', settings: { asset: files.curves } }],
  mesh: [{ id: 'mesh', type: 'lay.importMesh', settings: { asset: files.mesh } }],
  points: [{ id: 'points', type: 'lay.importPoints', settings: { asset: files.points } }],
  copies: [
    { id: 'spots', type: 'lay.importPoints', settings: { asset: files.points } },
    { id: 'post', type: 'lay.importMesh', settings: { asset: files.post } },
    { id: 'copies', type: 'place.copies' },
  ],
};
const sourceWires: Readonly<Record<Source, readonly object[]>> = {
  curves: [],
  mesh: [],
  points: [],
  copies: [
    { from: ['spots', 'points'], to: ['copies', inputOf('place.copies', 'points')] },
    { from: ['post', 'mesh'], to: ['copies', inputOf('place.copies', 'mesh')] },
  ],
};

function inputOf(type: string, kind: Source): string {
  return nodeDefinitions.get(type)!.inputs.find(({ kinds }) => kinds.includes(kind))!.name;
}

/** The kinds that the first input takes, each of which is a way to run a node; those without inputs run in one way. */
export function waysOf({ inputs }: NodeDefinition): (Source | null)[] {
  if (!inputs.length) return [null];
  const { kinds } = inputs[0];
  return (['curves', 'mesh', 'points', 'copies'] as const).filter((kind) => kinds.includes(kind) || kinds.includes('any'));
}

export interface CatalogueRun {
  readonly type: string;
  readonly settings?: Readonly<Record<string, unknown>>;
  readonly way: Source | null;
  readonly size?: InputSize;
  /** Nothing comes in. */
  readonly empty?: boolean;
}

/** Runs one node; null: what comes in could not be made within the limits. */
export async function runNode(
  { type, settings = {}, way, size = smallInput, empty = false }: CatalogueRun,
  request: RunRequest = {},
  options: EvaluatorOptions = {},
): Promise<NodeResult | null> {
  const definition = nodeDefinitions.get(type)!;
  const used = new Set<Source>();
  const wires: object[] = [];
  definition.inputs.forEach((port, i) => {
    const fitting = (['curves', 'mesh', 'points', 'copies'] as const).filter((kind) => port.kinds.includes(kind) || port.kinds.includes('any'));
    const kind = i === 0 ? way : (fitting.find((each) => each !== way) ?? fitting[0]);
    if (!kind) return;
    used.add(kind);
    const output = kind === 'copies' ? nodeDefinitions.get('place.copies')!.outputs[0].name : kind;
    wires.push({ from: [kind, output], to: ['node', port.name] });
  });
  const nodes = [...used].flatMap((kind) => sourceNodes[kind]).map((node) => (empty && 'settings' in node ? { ...node, settings: {} } : node));
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    edition: currentEdition,
    title: type,
    nodes: [...new Map(nodes.map((node) => [node.id, node])).values(), { id: 'node', type, settings }],
    wires: [...wires, ...[...used].flatMap((kind) => sourceWires[kind])],
  });
  const files = contents(size);
  const evaluator = new Evaluator({ imported: (hash) => files[hash], ...options });
  const { nodes: results } = await evaluator.run(new Plan(document), request);
  return results.get('node') ?? null;
}

/** Values at the ends and beyond of a setting that is a number, or several. */
export function extremesOf(setting: Setting): unknown[] {
  if (setting.kind !== 'number' && setting.kind !== 'integer' && setting.kind !== 'vector') return [];
  if (setting.kind === 'vector') {
    const { length } = setting.default;
    return [0, -1, 5e-324, 1e-300, 1e39, 1e308].map((value) => new Array<number>(length).fill(value));
  }
  const ends = [setting.min, setting.max].filter((end) => end !== undefined);
  if (setting.kind === 'integer') return [0, -1, ...ends];
  return [0, -1, ...ends, 5e-324, 1e-300, 1e-30, 1e39, 1e308];
}
