import {
  countsOf,
  deliveredPieces,
  deliveryName,
  faultBefore,
  geometriesOf,
  isEmptyResult,
  joinSets,
  measure,
  timelineOf,
  type Evaluator,
  type Piece,
  type Plan,
} from '@filaxis/core';
import { companions, fittingEndings, FormatError, frameWriter, kindsIn, largestImport, writeFrozen, writeTo } from '@filaxis/formats';
import type { FromWorker, Obstacle, ToWorker } from '@filaxis/protocol';

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

/** A node without a result, for which there can be no file. */
class NodeFault extends Error {
  constructor(
    message: string,
    readonly node: string,
  ) {
    super(message);
  }
}

/** What is in the way of a file, as far as an error says it. */
export const obstacleOf = (error: Error): Obstacle =>
  error instanceof NodeFault ? { node: error.node } : error instanceof FormatError && error.cure ? { cure: error.cure } : null;

/** What nodes give at a moment. @throws Error saying why there is none. */
async function piecesAt({ evaluator, plan, pause, stopped }: Writing, { nodes, dials }: ExportMessage, time: number): Promise<Piece[]> {
  if (!plan) throw new Error('No document is open.');
  const result = await evaluator.run(plan, { targets: nodes, dials, time, pause, cancelled: stopped });
  if (result.cancelled) throw new Error('Writing was stopped.');
  const fault = faultBefore(plan, result, nodes);
  if (fault) throw new NodeFault(fault.message, fault.node ?? nodes[0]);
  return deliveredPieces(plan, result, nodes);
}

/** Writes the results of nodes, or an archive of all frames of a range. */
export async function exportResult(message: ExportMessage, writing: Writing): Promise<void> {
  const { request, nodes, ending, name, time, frames } = message;
  const { plan, tell } = writing;
  const pieces: BlobPart[] = [];
  const out = (bytes: Uint8Array): void => void pieces.push(bytes as Uint8Array<ArrayBuffer>);
  const how = { ...message.how, ...(plan && { called: deliveryName(plan, nodes) }) };
  if (!frames) {
    const made = await piecesAt(writing, message, time);
    if (!fittingEndings(made).includes(ending))
      throw new FormatError(`${ending} cannot hold ${kindsIn(made).join(' and ')}; choose one of ${fittingEndings(made).join(', ')}.`, 'format');
    await writeTo(out, ending, made, name, how);
    const set = joinSets(made.map((piece) => piece.set));
    const beside = companions[ending];
    const text = beside?.write(made, how) ?? null;
    const companion = text === null ? null : { ending: beside.ending, text };
    tell({ kind: 'exported', request, file: new Blob(pieces), companion, measures: measure(set), empty: isEmptyResult(set) });
    return;
  }
  const { rate } = timelineOf(plan!.document);
  const writer = frameWriter(out, ending, name, { ...frames, rate }, how);
  let last: readonly Piece[] = [];
  let filled = false;
  for (let frame = frames.from; frame <= frames.to; frame++) {
    tell({ kind: 'writing', request, fraction: (frame - frames.from) / (frames.to - frames.from + 1) });
    last = await piecesAt(writing, message, frame / rate);
    await writer.add(frame, last);
    filled ||= last.length > 0;
  }
  await writer.end();
  tell({ kind: 'exported', request, file: new Blob(pieces), companion: null, measures: measure(joinSets(last.map(({ set }) => set))), empty: !filled });
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
