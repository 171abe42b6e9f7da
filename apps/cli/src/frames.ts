import { writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import {
  deliveredPieces,
  deliveryName,
  makeReport,
  mostFrames,
  problemsOf,
  timelineOf,
  type DialValues,
  type Evaluator,
  type Plan,
  type Report,
} from '@filaxis/core';
import { endingOf, framesEnding, frameWriter, writers, type WriteOptions } from '@filaxis/formats';
import { exitCodes, Refused } from './exit.js';
import { warningsOf } from './warnings.js';
import { writeWhole } from './write.js';

/** Which frames are written, and as what. */
export interface Frames {
  readonly from: number;
  readonly to: number;
  readonly ending: string;
  readonly out: string;
}

/** Frames as `1..50`, both included. @throws Refused when they are something else, or with what does not go with them. */
export function framesOf(text: string, { out = '', each = '.glb', time }: { readonly out?: string; readonly each?: string; readonly time?: string }): Frames {
  const [, first, last] = /^(-?\d+)\.\.(-?\d+)$/.exec(text) ?? [];
  if (first === undefined) throw new Refused(`--frames is "${text}"; write the first and the last as 1..50.`);
  const [from, to] = [Number(first), Number(last)];
  if (to < from) throw new Refused(`--frames ${text}: the last frame comes before the first.`);
  if (to - from >= mostFrames) throw new Refused(`--frames ${text}: these are ${to - from + 1} frames; the limit is ${mostFrames}.`);
  if (time !== undefined) throw new Refused('Give --time or --frames, not both.');
  const together = endingOf(out) === '.glb';
  const ending = together || endingOf(out) === '.usda' ? endingOf(out) : each;
  if (!Object.hasOwn(writers, ending)) throw new Refused(`--each is "${each}"; frames can be written as ${Object.keys(writers).join(', ')}.`);
  if (endingOf(out) !== framesEnding(ending, together))
    throw new Refused(`${out}: frames are written as an archive, or as one file of USD or binary glTF; give --out a name that ends in .zip, .usda or .glb.`);
  return { from, to, ending, out };
}

/** A frame in the report: what `--report` says of one moment. */
export type FrameReport = Report & { readonly frame: number; readonly seconds: number };

/**
 * Writes an archive with a file for every frame, or one file of USD or, with morph targets, of binary glTF. The report has a row for each frame; of the warnings
 * of a frame the first is told, and how many more there are.
 */
export async function writeFrames({
  plan,
  evaluator,
  targets,
  dials,
  how,
  report,
  from,
  to,
  ending,
  out: path,
}: Frames & {
  readonly plan: Plan;
  readonly evaluator: Evaluator;
  /** The nodes whose results are written. */
  readonly targets: readonly string[];
  readonly dials: DialValues;
  readonly how: WriteOptions;
  /** Where the report goes. */
  readonly report: string | undefined;
}): Promise<number> {
  const { rate } = timelineOf(plan.document);
  const rows: FrameReport[] = [];
  const told: string[] = [];
  await writeWhole(path, async (out) => {
    const name = basename(path).slice(0, -endingOf(path).length);
    const writer = frameWriter(out, ending, name, { from, to, rate }, { ...how, together: endingOf(path) === '.glb', called: deliveryName(plan, targets) });
    for (let frame = from; frame <= to; frame++) {
      const result = await evaluator.run(plan, { targets, dials, time: frame / rate });
      const [problem] = problemsOf(plan, result).filter(({ node }) => !node || result.nodes.has(node));
      if (problem) throw new Refused(`frame ${frame}: ${problem.pointer}: ${problem.message}`);
      const pieces = deliveredPieces(plan, result, targets);
      await writer.add(frame, pieces);
      const warnings = [...warningsOf(result), ...(pieces.length ? [] : [`"${targets.join(', ')}" is empty.`])];
      if (warnings.length) told.push(`frame ${frame}: ${warnings[0]}${warnings.length > 1 ? ` (and ${warnings.length - 1} more)` : ''}`);
      if (report) rows.push({ frame, seconds: frame / rate, ...makeReport(plan, result) });
    }
    await writer.end();
  });
  if (report) writeFileSync(report, `${JSON.stringify({ title: plan.document.title, rate, frames: rows }, null, 2)}\n`);
  for (const warning of told) console.error(`warning: ${warning}`);
  return told.length ? exitCodes.warnings : exitCodes.done;
}
