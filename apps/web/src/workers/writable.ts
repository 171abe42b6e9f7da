import { countsOf, deliveredPieces, faultBefore, type Attributes, type Counts, type GeometrySet } from '@filaxis/core';
import { canBeColour, fittingEndings, isUvSet } from '@filaxis/formats';
import type { Answers, Questions } from '@filaxis/protocol';
import type { Newest } from './newest';

/** How many there are of each kind of element in a result. */
function countsIn({ mesh, copies, curves, points }: GeometrySet): Counts {
  const counts: Record<string, number> = {};
  for (const part of [mesh, copies, curves, points])
    for (const [name, count] of Object.entries(part ? countsOf(part) : {})) counts[name] = (counts[name] ?? 0) + count;
  return counts;
}

/**
 * What of the results of nodes can be chosen for a file.
 * @throws Error where the newest run does not know one of them yet.
 */
export function writableOf({ plan, run }: Newest, { nodes }: Questions['writable']): Answers['writable'] {
  const unknown = nodes.find((node) => !run.nodes.has(node));
  if (unknown !== undefined) throw new Error(`${unknown} has not been computed yet.`);
  const pieces = deliveredPieces(plan, run, nodes);
  const all: Attributes[] = pieces.flatMap(({ set: { mesh, points, copies } }) =>
    [mesh, points, ...(copies?.objects ?? [])].flatMap((part) => (part ? [part.attributes] : [])),
  );
  const named = (fits: typeof isUvSet): string[] =>
    [...new Set(all.flatMap((attributes) => [...attributes].filter(([, each]) => fits(each)).map(([name]) => name)))].sort();
  const fault = faultBefore(plan, run, nodes);
  const parts = pieces.map(({ set: { mesh } }) => new Set((mesh?.attributes.get('body') ?? mesh?.attributes.get('part'))?.data).size);
  return {
    uvSets: named(isUvSet),
    colours: named(canBeColour),
    parts: Math.max(0, ...parts),
    copies: pieces.reduce((sum, { set: { copies } }) => sum + (copies?.object.length ?? 0), 0),
    pieces: pieces.map(({ name, set }) => ({ name, counts: countsIn(set) })),
    endings: fittingEndings(pieces),
    fault: fault && { node: fault.node ?? '', message: fault.message },
  };
}
