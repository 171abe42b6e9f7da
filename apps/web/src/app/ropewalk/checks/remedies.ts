import type { FilaxisDocument, Remedy } from '@filaxis/core';
import { putBehind, setSetting } from '../document/edits';

/** The document with a remedy put into the graph. */
export const remedied = (document: FilaxisDocument, remedy: Remedy): FilaxisDocument =>
  remedy.do === 'set'
    ? setSetting(document, remedy.node, remedy.setting, remedy.value)
    : putBehind(document, remedy.after, remedy.type, remedy.settings).document;
