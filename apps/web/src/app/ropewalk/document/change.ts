import type { FilaxisDocument } from '@filaxis/core';

/** A piece of a list that was put in place of another. */
interface Splice {
  readonly at: number;
  readonly removed: readonly unknown[];
  readonly added: readonly unknown[];
}

/** What became of one field of a document: pieces of its list from the front to the back, or the whole of what is no list. */
type FieldChange = { readonly splices: readonly Splice[] } | { readonly before: unknown; readonly after: unknown };

/** A named change of a document: plain data, which can be done, undone and sent. It holds only what differs. */
export interface Change {
  readonly label: string;
  readonly fields: Readonly<Record<string, FieldChange>>;
}

/** What leads from one document to another. Parts that are the same object in both are not compared further. */
export function changeBetween(label: string, before: FilaxisDocument, after: FilaxisDocument): Change {
  const fields: Record<string, FieldChange> = {};
  for (const name of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const [old, now] = [fieldOf(before, name), fieldOf(after, name)];
    if (old === now) continue;
    fields[name] = Array.isArray(old) && Array.isArray(now) ? { splices: splicesBetween(old, now) } : { before: old, after: now };
  }
  return { label, fields };
}

/** The document after a change. @throws Error when it was made to a document that differs where it changes something. */
export function applyChange(document: FilaxisDocument, { label, fields }: Change): FilaxisDocument {
  const changed = Object.entries(fields).map(([name, change]) => {
    const now = fieldOf(document, name);
    if (!('splices' in change)) {
      if (!same(now, change.before)) throw misfit(label, name);
      return [name, change.after] as const;
    }
    const list = [...(now as readonly unknown[])];
    // From the back, so that places further in front stay where they were.
    for (const { at, removed, added } of change.splices.toReversed()) {
      if (!same(list.slice(at, at + removed.length), removed)) throw misfit(label, name);
      list.splice(at, removed.length, ...added);
    }
    return [name, list] as const;
  });
  const result: Record<string, unknown> = { ...document, ...Object.fromEntries(changed) };
  for (const [name, value] of changed) if (value === undefined) delete result[name];
  return result as unknown as FilaxisDocument;
}

/** The change that takes another back. */
export function reversed({ label, fields }: Change): Change {
  const turn = (change: FieldChange): FieldChange =>
    'splices' in change ? { splices: reversedSplices(change.splices) } : { before: change.after, after: change.before };
  return { label, fields: Object.fromEntries(Object.entries(fields).map(([name, change]) => [name, turn(change)])) };
}

function reversedSplices(splices: readonly Splice[]): Splice[] {
  let shift = 0;
  return splices.map(({ at, removed, added }) => {
    const turned = { at: at + shift, removed: added, added: removed };
    shift += added.length - removed.length;
    return turned;
  });
}

/** Lists of one length differ place by place; others in one piece, between what is the same at both ends. */
function splicesBetween(old: readonly unknown[], now: readonly unknown[]): Splice[] {
  const splices: Splice[] = [];
  if (old.length === now.length) {
    for (let at = 0; at < old.length; at++) {
      if (old[at] === now[at]) continue;
      let end = at + 1;
      while (end < old.length && old[end] !== now[end]) end++;
      splices.push({ at, removed: old.slice(at, end), added: now.slice(at, end) });
      at = end;
    }
    return splices;
  }
  const shorter = Math.min(old.length, now.length);
  let front = 0;
  while (front < shorter && old[front] === now[front]) front++;
  let back = 0;
  while (back < shorter - front && old[old.length - 1 - back] === now[now.length - 1 - back]) back++;
  return [{ at: front, removed: old.slice(front, old.length - back), added: now.slice(front, now.length - back) }];
}

const fieldOf = (document: FilaxisDocument, name: string): unknown => (document as unknown as Readonly<Record<string, unknown>>)[name];
const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);
const misfit = (label: string, field: string): Error => new Error(`“${label}” was done to a document with other ${field}.`);
