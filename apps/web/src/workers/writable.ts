import { countsOf, resultName, resultOf, type Attributes } from '@filaxis/core';
import { canBeColour, isUvSet } from '@filaxis/formats';
import type { Answers, Questions } from '@filaxis/protocol';
import type { Newest } from './newest';

/**
 * What of a node's result can be chosen for a file.
 * @throws Error where the newest run does not know the node yet.
 */
export function writableOf({ plan, run }: Newest, { node }: Questions['writable']): Answers['writable'] {
  if (!run.nodes.has(node)) throw new Error(`${node} has not been computed yet.`);
  const { mesh, points, copies, curves } = resultOf(run.nodes.get(node));
  const all: Attributes[] = [mesh, points, ...(copies?.objects ?? [])].flatMap((part) => (part ? [part.attributes] : []));
  const counts: Record<string, number> = {};
  for (const part of [mesh, copies, curves, points])
    for (const [name, count] of Object.entries(part ? countsOf(part) : {})) counts[name] = (counts[name] ?? 0) + count;
  const named = (fits: typeof isUvSet): string[] =>
    [...new Set(all.flatMap((attributes) => [...attributes].filter(([, each]) => fits(each)).map(([name]) => name)))].sort();
  return {
    uvSets: named(isUvSet),
    colours: named(canBeColour),
    parts: new Set((mesh?.attributes.get('body') ?? mesh?.attributes.get('part'))?.data).size,
    copies: copies?.object.length ?? 0,
    called: resultName(plan.document, node),
    counts,
  };
}
