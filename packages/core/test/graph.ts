import {
  currentEdition,
  Evaluator,
  makeReport,
  nodeDefinitions,
  Plan,
  requireDocument,
  type Curves,
  type FilaxisDocument,
  type Measures,
  type Mesh,
  type NodeResult,
  type PortKind,
  type Report,
} from '../src/index.js';

/** A chain of nodes: [type, settings], each wired by its first fitting input to the first output of the one before. */
export type Chain = readonly (readonly [type: string, settings?: Readonly<Record<string, unknown>>])[];

/** The first input that takes this kind as it is, else the first. */
function fittingInput(type: string, kind: PortKind): string {
  const { inputs } = nodeDefinitions.get(type)!;
  return (inputs.find(({ kinds }) => kinds.includes(kind) || kinds.includes('any')) ?? inputs[0]).name;
}

export function chainDocument(chain: Chain): FilaxisDocument {
  return requireDocument({
    format: 'filaxis-graph',
    version: 1,
    edition: currentEdition,
    title: 'Chain',
    nodes: chain.map(([type, settings = {}], i) => ({ id: `n${i}`, type, settings })),
    wires: chain.slice(1).map(([type], i) => ({
      from: [`n${i}`, nodeDefinitions.get(chain[i][0])!.outputs[0].name],
      to: [`n${i + 1}`, fittingInput(type, nodeDefinitions.get(chain[i][0])!.outputs[0].kind)],
    })),
  });
}

export interface ChainResult {
  readonly last: NodeResult;
  readonly report: Report;
  /** The last node's curves or mesh. */
  readonly curves: Curves;
  readonly mesh: Mesh;
}

/** Runs a chain and gives what its last node made. */
export async function runChain(chain: Chain, evaluator = new Evaluator()): Promise<ChainResult> {
  const plan = new Plan(chainDocument(chain));
  const run = await evaluator.run(plan);
  const last = run.nodes.get(`n${chain.length - 1}`)!;
  const value = Object.values(last.outputs)[0];
  return { last, report: makeReport(plan, run), curves: value as Curves, mesh: value as Mesh };
}

/** Figures of a chain that ends in an Output. @throws Error with the first problem. */
export async function measureChain(chain: Chain): Promise<Measures> {
  const { report } = await runChain([...chain, ['flow.output']]);
  if (!report.ok) throw new Error(report.problems[0].message);
  return report.outputs['main'];
}

/** A drawn curve to begin a chain with. */
export const drawn = (points: readonly (readonly number[])[], closed = false, kind = 'straight'): Chain[number] => [
  'lay.drawn',
  { kind, curves: [{ points, closed }] },
];

/** Runs any document given as nodes (id, type, settings) and wires ("a.curves > b.curves"). */
export async function runGraph(
  nodes: Readonly<Record<string, readonly [type: string, settings?: Readonly<Record<string, unknown>>]>>,
  wires: readonly string[],
  evaluator = new Evaluator(),
): Promise<{ results: Readonly<Record<string, NodeResult>>; report: Report }> {
  const ends = wires.map((wire) => wire.split('>').map((end) => end.trim().split('.')));
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    edition: currentEdition,
    title: 'Graph',
    nodes: Object.entries(nodes).map(([id, [type, settings = {}]]) => ({ id, type, settings })),
    wires: ends.map(([from, to]) => ({ from, to })),
  });
  const plan = new Plan(document);
  const run = await evaluator.run(plan);
  return { results: Object.fromEntries(run.nodes), report: makeReport(plan, run) };
}
