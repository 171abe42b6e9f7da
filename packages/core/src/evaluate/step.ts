import { Cancelled } from '../base/limits.js';
import { bytesOf, type Geometry } from '../geometry/geometry.js';
import type { Varying } from '../varying/varying.js';
import type { NodeDefinition, Outputs, RunContext } from '../definition/define.js';
import { asProblem, makeContext, type Step } from './context.js';
import { gatherInputs, geometriesOf, sumCounts, type Inputs } from './inputs.js';
import { noResult, type NodeResult } from './result.js';
import { runWhere } from './where.js';

/** Runs one node on what comes in. Whatever it throws is its result's error, unless the run was stopped. @throws Cancelled */
export async function runStep(step: Step, definition: NodeDefinition, done: ReadonlyMap<string, NodeResult>): Promise<NodeResult> {
  const begun = performance.now();
  const { planned, settings, varied, warnings } = step;
  let inputs: Inputs;
  try {
    inputs = gatherInputs(planned, definition, done, step.limits);
  } catch (error) {
    return { ...noResult, ms: performance.now() - begun, error: asProblem(error, planned) };
  }
  const counts = sumCounts([...inputs.values()].flat());
  try {
    const given = withoutRunning(step, definition, inputs) ?? outputsOf(step, definition, inputs);
    // Waiting costs a turn, which only those have to take that need it.
    const outputs = given instanceof Promise ? await given : given;
    const made = Object.values(outputs).flatMap(geometriesOf);
    const bytes = made.reduce((sum, geometry) => sum + bytesOf(geometry), 0);
    return { outputs, settings, varied, key: step.key, ms: performance.now() - begun, bytes, in: counts, out: sumCounts(made), warnings };
  } catch (error) {
    if (error instanceof Cancelled) throw error;
    return { ...noResult, settings, varied, ms: performance.now() - begun, in: counts, warnings, error: asProblem(error, planned) };
  }
}

/** What a node gives that is switched off or waits for something to come in; null: it has to run. */
function withoutRunning({ planned, settings, warnings }: Step, definition: NodeDefinition, inputs: Inputs): Outputs | null {
  if (settings['on'] === false || settings['where'] === false) {
    const passing: Geometry | undefined = inputs.get(definition.inputs[0].name)?.[0];
    if (!passing) return {};
    const fitting = definition.outputs.find((port) => port.kind === passing.type || port.kind === 'any');
    if (fitting) return { [fitting.name]: passing };
    const message = `${definition.label} is off, and ${passing.type} cannot pass as ${definition.outputs[0].kind}.`;
    warnings.push({ code: 'empty', message, remedy: 'Switch it on.' });
    return {};
  }
  const missing = definition.inputs.find((port) => !port.optional && !inputs.get(port.name)?.length);
  if (!missing) return null;
  const wired = planned.wires.some((wire) => wire.port === missing.name);
  const what = missing.kinds.includes('any') ? 'anything' : missing.kinds.join(' or ');
  warnings.push({
    code: 'empty',
    message: wired ? `What comes into "${missing.name}" is empty.` : `Waiting for ${what} at "${missing.name}".`,
    remedy: wired ? 'Look at the node before it.' : `Wire ${what} to it.`,
  });
  return {};
}

function outputsOf(step: Step, definition: NodeDefinition, inputs: Inputs): Outputs | Promise<Outputs> {
  const run = (given: Inputs): Outputs | Promise<Outputs> => definition.run(makeContext(step, given) as RunContext<never>);
  const where = step.settings['where'];
  return typeof where === 'object' ? runWhere(definition, where as Varying, inputs, step.varied, run) : run(inputs);
}
