import type { FilaxisDocument, Remedy } from '@filaxis/core';
import { putBefore, putBehind, setSetting } from '../document/edits';

/** The document with a remedy put into the graph. */
export function remedied(document: FilaxisDocument, remedy: Remedy): FilaxisDocument {
  switch (remedy.do) {
    case 'set':
      return setSetting(document, remedy.node, remedy.setting, remedy.value);
    case 'insert':
      return putBehind(document, remedy.after, remedy.type, remedy.settings).document;
    case 'before':
      return putBefore(document, remedy.node, remedy.type, remedy.settings);
  }
}
