import type { FilaxisDocument } from '@filaxis/core';
import { measurePlaces, type Measure } from '@filaxis/protocol';

const isPlace = (value: unknown): boolean => Array.isArray(value) && value.length === 3 && value.every((n) => Number.isFinite(n));

/** The measures that a document keeps. What is none is left out: nothing that is computed depends on them. */
export function measuresOf({ view }: FilaxisDocument): Measure[] {
  const list = view?.['measures'];
  if (!Array.isArray(list)) return [];
  return (list as unknown[]).filter((each): each is Measure => {
    const { kind, anchors } = (each ?? {}) as Partial<Measure>;
    return !!kind && Object.hasOwn(measurePlaces, kind) && Array.isArray(anchors) && anchors.length === measurePlaces[kind] && anchors.every((anchor) => isPlace(anchor?.place)); // prettier-ignore
  });
}

export const withMeasures = (document: FilaxisDocument, measures: readonly Measure[]): FilaxisDocument => ({
  ...document,
  view: { ...document.view, measures },
});
