import {
  countsOf,
  definitionById,
  geometriesOf,
  isEmptyResult,
  measure,
  namedResults,
  resultName,
  resultOf,
  timelineOf,
  type Evaluator,
  type GeometrySet,
  type Plan,
} from '@filaxis/core';
import { companions, fittingEndings, frameWriter, largestImport, writeFrozen, writeTo } from '@filaxis/formats';
import type { FromWorker, ToWorker } from '@filaxis/protocol';

/** What files are written with. */
export interface Writing {
  readonly evaluator: Evaluator;
  readonly plan: Plan | null;
  readonly tell: (message: FromWorker, transfer?: Transferable[]) => void;
  readonly pause: () => Promise<void>;
  /** Whether it is not wanted any more. */
  readonly stopped: () => boolean;
}

type ExportMessage = Extract<ToWorker, { kind: 'export' }>;

/** What a node gives at a moment. @throws Error saying why there is none. */
async function resultAt({ evaluator, plan, pause, stopped }: Writing, { node, dials }: ExportMessage, time: number): Promise<GeometrySet | undefined> {
  if (!plan) throw new Error('No document is open.');
  const result = await evaluator.run(plan, { targets: [node], dials, time, pause, cancelled: stopped });
  if (result.cancelled) throw new Error('Writing was stopped.');
  const problem = result.nodes.get(node)?.error;
  if (problem) throw new Error(problem.message);
  const named = definitionById(plan.document, node)?.role === 'output';
  return named ? [...namedResults(plan, result).values()][0] : resultOf(result.nodes.get(node));
}

/** Writes a node's result, or an archive of all frames of a range. */
export async function exportResult(message: ExportMessage, writing: Writing): Promise<void> {
  const { request, node, ending, name, time, frames } = message;
  const { plan, tell } = writing;
  const pieces: BlobPart[] = [];
  const out = (bytes: Uint8Array): void => void pieces.push(bytes as Uint8Array<ArrayBuffer>);
  const how = { ...message.how, ...(plan && { called: resultName(plan.document, node) }) };
  if (!frames) {
    const set = (await resultAt(writing, message, time)) ?? {};
    if (!fittingEndings(set).includes(ending))
      throw new Error(`${ending} cannot hold ${Object.keys(set).join(' and ')}; choose one of ${fittingEndings(set).join(', ')}.`);
    await writeTo(out, ending, set, name, how);
    const beside = companions[ending];
    const text = beside?.write(set) ?? null;
    const companion = text === null ? null : { ending: beside.ending, text };
    tell({ kind: 'exported', request, file: new Blob(pieces), companion, measures: measure(set), empty: isEmptyResult(set) });
    return;
  }
  const { rate } = timelineOf(plan!.document);
  const writer = frameWriter(out, ending, name, { ...frames, rate }, how);
  let last: GeometrySet | undefined;
  let filled = false;
  for (let frame = frames.from; frame <= frames.to; frame++) {
    tell({ kind: 'writing', request, fraction: (frame - frames.from) / (frames.to - frames.from + 1) });
    last = await resultAt(writing, message, frame / rate);
    await writer.add(frame, last);
    filled ||= !!last && !isEmptyResult(last);
  }
  await writer.end();
  tell({ kind: 'exported', request, file: new Blob(pieces), companion: null, measures: measure(last ?? {}), empty: !filled });
}

/** Gives what an output gives as bytes that keep every number. @throws Error saying why there is nothing to keep. */
export async function freeze(
  { request, dials, time, from: [node, output] }: Extract<ToWorker, { kind: 'freeze' }>,
  { evaluator, plan, pause, tell }: Writing,
): Promise<void> {
  if (!plan) throw new Error('No document is open.');
  const done = (await evaluator.run(plan, { targets: [node], dials, time, pause })).nodes.get(node);
  if (done?.error) throw new Error(done.error.message);
  const geometry = Object.entries(done?.outputs ?? {}).flatMap(([name, value]) => (name === output ? geometriesOf(value) : []))[0];
  if (!geometry || isEmptyResult({ [geometry.type]: geometry })) throw new Error('There is nothing yet that could be frozen.');
  const bytes = writeFrozen(geometry);
  const grouped = (count: number): string => count.toLocaleString('en-GB');
  if (bytes.length > largestImport) throw new Error(`Frozen it has ${grouped(bytes.length)} bytes; the limit is ${grouped(largestImport)}.`);
  tell({ kind: 'frozen', request, bytes, counts: countsOf(geometry) }, [bytes.buffer]);
}
