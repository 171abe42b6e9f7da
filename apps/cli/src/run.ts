import { writeFileSync } from 'node:fs';
import {
  deliveredPieces,
  deliveryName,
  makeReport,
  outputsOf,
  parseDialText,
  Plan,
  problemsOf,
  type DialValue,
  type FilaxisDocument,
  type Problem,
} from '@filaxis/core';
import { endingOf, fittingEndings, writers } from '@filaxis/formats';
import { exitCodes, Refused } from './exit.js';
import { framesOf, writeFrames } from './frames.js';
import { readOptions, readWriteOptions, writeOptions } from './options.js';
import { openSource } from './source.js';
import { warningsOf } from './warnings.js';
import { cannotHold, writeResult } from './write.js';

/** `filaxis run`: evaluates a document and writes one of its results. */
export async function run(args: readonly string[]): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      dial: { type: 'string', multiple: true },
      time: { type: 'string' },
      frames: { type: 'string' },
      each: { type: 'string' },
      output: { type: 'string', multiple: true },
      outputs: { type: 'boolean' },
      node: { type: 'string', multiple: true },
      out: { type: 'string' },
      report: { type: 'string' },
      outside: { type: 'boolean' },
      ...writeOptions,
    },
    { least: 1, most: 1, names: 'one document' },
  );
  if (!values.out) throw new Refused(`Say where to write with --out FILE (${Object.keys(writers).join(', ')}).`);
  const frames = values.frames === undefined ? null : framesOf(values.frames, values);
  if (!frames && !Object.hasOwn(writers, endingOf(values.out)))
    throw new Refused(`${values.out}: results can be written as ${Object.keys(writers).join(', ')}.`);
  if ([values.output, values.node, values.outputs].filter((each) => each !== undefined).length > 1)
    throw new Refused('Give one of --output, --outputs and --node.');
  const how = readWriteOptions(values);
  const time = values.time === undefined ? undefined : Number(values.time);
  if (time !== undefined && !Number.isFinite(time)) throw new Refused(`--time is "${values.time}"; it must be a number of seconds.`);

  const { document, evaluator } = await openSource(positionals[0], values.outside);
  const plan = new Plan(document);
  const targets = wantedNodes(document, values);
  const dials = readDials(document, values.dial ?? []);
  if (frames) return writeFrames({ plan, evaluator, targets, dials, how, report: values.report, ...frames });
  const result = await evaluator.run(plan, { targets, dials, time });
  const report = makeReport(plan, result);
  if (values.report) writeFileSync(values.report, `${JSON.stringify(report, null, 2)}\n`);
  const all = problemsOf(plan, result);
  const concerns = ({ node }: Problem): boolean => !node || result.nodes.has(node);
  const problems = all.filter(concerns);
  if (problems.length) throw new Refused(problems.map(told).join('\n'));
  const elsewhere = all.filter((problem) => !concerns(problem)).map((problem) => `elsewhere in the document: ${told(problem)}`);
  const pieces = deliveredPieces(plan, result, targets);
  if (!fittingEndings(pieces).includes(endingOf(values.out))) throw new Refused(cannotHold(values.out, pieces));
  await writeResult(values.out, pieces, { ...how, called: deliveryName(plan, targets) });
  const empty = pieces.length ? [] : [`"${targets.join(', ')}" is empty, so there is nothing in ${values.out}.`];
  const warnings = [...warningsOf(result), ...empty, ...elsewhere];
  for (const warning of warnings) console.error(`warning: ${warning}`);
  return warnings.length ? exitCodes.warnings : exitCodes.done;
}

const told = ({ pointer, message }: Problem): string => `${pointer}: ${message}`;

/** What is asked for: outputs by name, all of them, or nodes; neither: the only (or main) output. */
interface Wanted {
  readonly output?: readonly string[];
  readonly outputs?: boolean;
  readonly node?: readonly string[];
}

/** The nodes that give what is wanted. */
function wantedNodes(document: FilaxisDocument, { output, outputs, node }: Wanted): readonly string[] {
  const unknown = node?.find((each) => !document.nodes.some(({ id }) => id === each));
  if (unknown !== undefined) throw new Refused(`There is no node "${unknown}".`);
  if (node) return node;
  const all = outputsOf(document).map(({ id }) => id);
  return outputs && all.length ? all : (output ?? [undefined]).map((name) => wantedOutput(document, name));
}

const nameOf = ({ settings }: { settings?: Readonly<Record<string, unknown>> }): string => String(settings?.['name'] ?? 'main');

/** The output of a name, or without one the only (or main) output. */
function wantedOutput(document: FilaxisDocument, output: string | undefined): string {
  const outputs = outputsOf(document);
  const found =
    output === undefined
      ? (outputs.find((candidate) => nameOf(candidate) === 'main') ?? outputs[0])
      : outputs.find((candidate) => nameOf(candidate) === output);
  if (found) return found.id;
  if (!outputs.length) throw new Refused('The document has no Output node; name a node with --node.');
  throw new Refused(`There is no output "${output}"; there are ${outputs.map((candidate) => `"${nameOf(candidate)}"`).join(', ')}.`);
}

/** Dial values from `id=value`. @throws Refused for dials that do not exist. */
function readDials(document: FilaxisDocument, list: readonly string[]): Record<string, DialValue> {
  const values: Record<string, DialValue> = {};
  for (const text of list) {
    const [, id, value] = /^([^=]+)=(.*)$/s.exec(text) ?? [];
    if (id === undefined) throw new Refused(`--dial ${text}: write it as id=value.`);
    const dial = document.dials?.find((candidate) => candidate.id === id);
    if (!dial) throw new Refused(`There is no dial "${id}"; there are ${(document.dials ?? []).map((candidate) => `"${candidate.id}"`).join(', ') || 'none'}.`);
    values[id] = parseDialText(dial, value) as DialValue;
  }
  return values;
}
