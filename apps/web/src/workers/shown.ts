import { indexOf, outputsOf, resultOf, type GeometrySet, type Plan, type RunResult } from '@filaxis/core';
import type { Shown } from '@filaxis/protocol';

/** What the 3D view shows, by node, and what stays faintly about it. */
export interface ShownSets {
  readonly ids: readonly string[];
  readonly sets: readonly GeometrySet[];
  /** Keys of their results; 0: there is none. */
  readonly keys: readonly number[];
  readonly context: readonly string[];
}

/** A result with something in it to be seen. */
const isSeen = ({ curves, mesh, points, copies }: GeometrySet): boolean =>
  !!(curves?.positions.length || mesh?.positions.length || points?.positions.length || copies?.object.length);

/**
 * The one rule of what is seen. `chosen`: the chosen node; with nothing chosen the outputs, else everything that no one takes further. `outputs`: the latter alone; `all`:
 * outputs and everything that no one takes further. A node that waits for an input, or gives nothing, shows what it is wired to, so that it never empties the view. Bodies that
 * the chosen node works on stay faintly in view; one that is drawn on is seen whole.
 */
export function shownSets(current: Plan, result: RunResult, { peek, chosen, looked, shows }: Shown): ShownSets {
  const { document } = current;
  const { wiresFrom, wiresTo, definitions } = indexOf(document);
  const setOf = (id: string): GeometrySet => resultOf(result.nodes.get(id));
  const outputs = outputsOf(document).map(({ id }) => id);
  const wired = outputs.filter((id) => document.wires.some(({ to }) => to[0] === id));
  const waits = (id: string): boolean => !!definitions.get(id)?.inputs.some(({ optional }) => !optional) && !wiresTo.get(id)?.length;
  const ends = document.nodes.map(({ id }) => id).filter((id) => !wiresFrom.get(id)?.length && !waits(id));
  const rest = wired.length ? wired : ends;

  const single = looked !== null && shows === 'chosen' && definitions.has(looked) && definitions.get(looked)!.role !== 'output' ? looked : null;
  const before = (id: string): string[] => (wiresTo.get(id) ?? []).map(({ from }) => from[0]).filter((source) => isSeen(setOf(source)));
  const alone = (id: string): string[] => {
    // One that failed has no result, and the last good picture stays; one that is empty shows what it waits with.
    if (!result.nodes.get(id)?.key || isSeen(setOf(id))) return [id];
    return before(id).length ? before(id) : rest;
  };
  const own = peek ? [peek] : shows === 'all' ? [...new Set([...wired, ...ends])] : single ? alone(single) : rest;

  const drawn = chosen !== null && definitions.get(chosen)?.role === 'drawing';
  const drawnOn = drawn ? (wiresTo.get(chosen) ?? []).map(({ from }) => from[0]) : [];
  const ids = [...new Set([...own, ...drawnOn])];
  const context = single && !peek && !drawn && own[0] === single ? workedOn(single).filter((id) => !ids.includes(id)) : [];
  return { ids, sets: ids.map(setOf), keys: ids.map((id) => result.nodes.get(id)?.key ?? 0), context };

  /** Bodies that a node works on, not those that it passes on, makes another of, or places. */
  function workedOn(id: string): string[] {
    const definition = definitions.get(id)!;
    const [first] = definition.outputs;
    if (first?.kind === 'copies') return [];
    const worked = definition.inputs.filter(
      ({ kinds }, i) => (kinds.includes('mesh') || kinds.includes('any')) && !(i === 0 && (definition.passes || first?.kind === 'mesh')),
    );
    return (wiresTo.get(id) ?? []).filter(({ to }) => worked.some(({ name }) => name === to[1])).map(({ from }) => from[0]);
  }
}
