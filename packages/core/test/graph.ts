import {
  Evaluator,
  makeReport,
  Plan,
  requireDocument,
  type Curves,
  type FilaxisDocument,
  type Measures,
  type Mesh,
  type NodeResult,
  type Report,
} from '../src/index.js';

/** A chain of nodes: [type, settings], each wired to the one before by its only fitting port. */
export type Chain = readonly (readonly [type: string, settings?: Readonly<Record<string, unknown>>])[];

const ports: Readonly<Record<string, { in?: string; out?: string }>> = {
  'lay.line': { out: 'curves' },
  'lay.drawn': { out: 'curves' },
  'lay.circle': { out: 'curves' },
  'lay.helix': { out: 'curves' },
  'lay.importCurves': { out: 'curves' },
  'pace.resample': { in: 'curves', out: 'curves' },
  'shape.hang': { in: 'curves', out: 'curves' },
  'shape.transform': { in: 'any', out: 'any' },
  'aim.frames': { in: 'curves', out: 'curves' },
  'skin.tube': { in: 'curves', out: 'mesh' },
  'skin.rope': { in: 'curves', out: 'mesh' },
  'mesh.material': { in: 'mesh', out: 'mesh' },
  'flow.join': { in: 'any', out: 'any' },
  'flow.output': { in: 'any' },
};

export function chainDocument(chain: Chain): FilaxisDocument {
  return requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Chain',
    nodes: chain.map(([type, settings = {}], i) => ({ id: `n${i}`, type, settings })),
    wires: chain.slice(1).map(([type], i) => ({ from: [`n${i}`, ports[chain[i][0]].out], to: [`n${i + 1}`, ports[type].in] })),
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
  const value = last.outputs['curves'] ?? last.outputs['mesh'] ?? last.outputs['any'];
  return { last, report: makeReport(plan, run), curves: value as Curves, mesh: value as Mesh };
}

/** Figures of a chain that ends in an Output. @throws Error with the first problem. */
export async function measureChain(chain: Chain): Promise<Measures> {
  const { report } = await runChain([...chain, ['flow.output']]);
  if (!report.ok) throw new Error(report.problems[0].message);
  return report.outputs['main'];
}
