import { basename } from 'node:path';
import { mostFrames, namedResults, problemsOf, resultName, resultOf, timelineOf, type DialValues, type Evaluator, type Plan } from '@filaxis/core';
import { endingOf, framesEnding, frameWriter, writers, type WriteOptions } from '@filaxis/formats';
import { exitCodes, Refused } from './exit.js';
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

/** Writes an archive with a file for every frame, or one file of USD or, with morph targets, of binary glTF. */
export async function writeFrames({
  plan,
  evaluator,
  target,
  dials,
  named,
  how,
  from,
  to,
  ending,
  out: path,
}: Frames & {
  readonly plan: Plan;
  readonly evaluator: Evaluator;
  readonly target: string;
  readonly dials: DialValues;
  /** The target is an output. */
  readonly named: boolean;
  readonly how: WriteOptions;
}): Promise<number> {
  const { rate } = timelineOf(plan.document);
  await writeWhole(path, async (out) => {
    const name = basename(path).slice(0, -endingOf(path).length);
    const writer = frameWriter(
      out,
      ending,
      name,
      { from, to, rate },
      { ...how, together: endingOf(path) === '.glb', called: resultName(plan.document, target) },
    );
    for (let frame = from; frame <= to; frame++) {
      const result = await evaluator.run(plan, { targets: [target], dials, time: frame / rate });
      const [problem] = problemsOf(plan, result).filter(({ node }) => !node || result.nodes.has(node));
      if (problem) throw new Refused(`frame ${frame}: ${problem.pointer}: ${problem.message}`);
      await writer.add(frame, named ? [...namedResults(plan, result).values()][0] : resultOf(result.nodes.get(target)));
    }
    await writer.end();
  });
  return exitCodes.done;
}
