import { type FillIssue } from '../../skin/solid/fill.js';
import { plainCaps } from '../../skin/parts/capUv.js';
import { type Warning } from '../../definition/define.js';

export const fillWarnings: Record<FillIssue['reason'], (issue: FillIssue) => Warning> = {
  open: ({ curve }) => ({ code: 'not-closed', curve, message: `Curve ${curve + 1} is open, so it bounds no face.`, remedy: 'Close it.' }),
  'not-flat': ({ curve }) => ({ code: 'degenerate', curve, message: `Curve ${curve + 1} is not flat; its face is bent.`, remedy: 'Draw it in a plane.' }),
  'no-area': ({ curve }) => ({ code: 'degenerate', curve, message: `Curve ${curve + 1} bounds no area, so nothing is made for it.`, remedy: 'Draw it apart.' }),
  crossing: ({ curve }) => ({ code: 'self-cross', curve, message: `Curve ${curve + 1} crosses an outline; where an even number of outlines are around, the face is open.`, remedy: 'Draw outlines that do not cross.' }), // prettier-ignore
  coincident: ({ curve }) => ({ code: 'degenerate', curve, message: `Curve ${curve + 1} lies on another outline, and the two cancel.`, remedy: 'Leave one of them out.' }), // prettier-ignore
};

/** Two lists joined one after the other where pairs or a row were wanted; `how`: what the node does with them. */
export const joinedWarning = (how: string): Warning => ({
  code: 'unequal-lists',
  message: `${how}, but each curve lies nearer to the one half the list further on: this looks like two lists joined one after the other.`,
  remedy: 'Wire the curves to Join one by one, in the order in which they belong together.',
});

export const plainLoft = {
  columns: 0,
  sampled: false,
  across: 0,
  rows: 0,
  smooth: 'linear',
  closedAcross: false,
  matchDirection: true,
  spread: 'even',
  flip: false,
  caps: 'open',
  ...plainCaps,
} as const;
