import { framesPerSecond } from '../definition/define.js';
import { partsOf } from '../definition/settings.js';
import { formulaNames } from '../values/formula/parse.js';
import type { FilaxisDocument } from './document.js';
import { definitionOf } from './documentIndex.js';

/** The timeline of a document: its first and last frame, the frame that is seen when it is opened, frames a second, and whether playing goes round. */
export interface Timeline {
  readonly from: number;
  readonly to: number;
  readonly at: number;
  readonly rate: number;
  readonly loop: boolean;
}

/** Frames a second that are offered (common practice for film, television and games). */
export const frameRates = [24, 25, 30, 60] as const;

/** Frames that a timeline may have. */
export const mostFrames = 10_000;

export const usualTimeline: Timeline = { from: 0, to: 120, at: 0, rate: framesPerSecond, loop: true };

/** The timeline as a document has it; what is not of its form is as usual. */
export function timelineOf(document: FilaxisDocument): Timeline {
  const own = document.view?.['timeline'];
  const given = (typeof own === 'object' && own !== null ? own : {}) as Partial<Record<keyof Timeline, unknown>>;
  const frame = (value: unknown, usual: number): number =>
    Number.isInteger(value) && Math.abs(value as number) <= mostFrames * 10 ? (value as number) : usual;
  const from = frame(given.from, usualTimeline.from);
  const to = Math.min(Math.max(frame(given.to, Math.max(usualTimeline.to, from)), from), from + mostFrames - 1);
  const at = Math.min(Math.max(frame(given.at, from), from), to);
  const rate = frameRates.find((each) => each === given.rate) ?? usualTimeline.rate;
  return { from, to, at, rate, loop: typeof given.loop === 'boolean' ? given.loop : usualTimeline.loop };
}

const namesTime = (formula: unknown): boolean => typeof formula === 'string' && formulaNames(formula).some((name) => name === 'time' || name === 'frameNumber');

/** The moment that a document is seen at when nothing else is asked for, seconds. */
export function firstMoment(document: FilaxisDocument): number {
  const { at, rate } = timelineOf(document);
  return at / rate;
}

/** Nodes of a document whose results depend on the time by themselves: by what they are, or by a formula that names it. */
export function timedNodes(document: FilaxisDocument): string[] {
  return document.nodes
    .filter((node) => {
      const definition = definitionOf(document, node);
      if (!definition) return false;
      const own = node.settings ?? {};
      if (definition.timed(own)) return true;
      return Object.entries(own).some(([key, value]) => {
        const setting = definition.settings[key];
        if (setting?.kind === 'text' && setting.formula) return namesTime(value);
        return partsOf(value).some((part) => typeof part === 'object' && part !== null && 'formula' in part && namesTime(part.formula));
      });
    })
    .map(({ id }) => id);
}
