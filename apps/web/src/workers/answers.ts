import type { Answers, Questions, Topic } from '@filaxis/protocol';
import { namesFor } from './names';
import type { Newest } from './newest';
import { onBody, strokePoints } from './onBody';
import { anchorOf, measuredNow } from './measuring';
import { edgesShown, makerOf, outlineOf, uvsOf } from './seen';
import { columnFigures, locate, tableText, tableWindow } from './table';
import { writableOf } from './writable';

/** Topics answered in one step; the checks go on in many. */
export type QuickTopic = Exclude<Topic, 'checks'>;

const answers: { readonly [T in QuickTopic]: (newest: Newest, question: Questions[T]) => Answers[T] } = {
  names: namesFor,
  table: tableWindow,
  column: columnFigures,
  locate,
  csv: tableText,
  writable: writableOf,
  onBody,
  strokePoints,
  edges: edgesShown,
  outline: outlineOf,
  maker: makerOf,
  uvSheet: uvsOf,
  anchor: anchorOf,
  measured: measuredNow,
};

/** Answers a question. @throws Error with a message for the artist. */
export const answer = <T extends QuickTopic>(newest: Newest, topic: T, question: Questions[T]): Answers[T] => answers[topic](newest, question);
