import type { FilaxisDocument } from '@filaxis/core';
import type { CameraState } from '../view3d/orbit';

/** A way to look at the document, kept in it under a name. */
export interface KeptView {
  readonly name: string;
  readonly camera: CameraState;
}

const isPlace = (value: unknown): value is readonly number[] => Array.isArray(value) && value.length === 3 && value.every((n) => Number.isFinite(n));

/** The views that a document keeps. What is no view is left out: `view` of a document is free, and nothing that is computed depends on it. */
export function keptViews({ view }: FilaxisDocument): KeptView[] {
  const list = view?.['kept'];
  if (!Array.isArray(list)) return [];
  return (list as unknown[]).filter((each): each is KeptView => {
    const { name, camera } = (each ?? {}) as Partial<KeptView>;
    return typeof name === 'string' && isPlace(camera?.position) && isPlace(camera.target);
  });
}

const withKept = (document: FilaxisDocument, kept: readonly KeptView[]): FilaxisDocument => ({ ...document, view: { ...document.view, kept } });

/** Keeps a view; one of the same name is replaced. */
export function keepViewAs(document: FilaxisDocument, name: string, camera: CameraState): FilaxisDocument {
  const kept = keptViews(document);
  const at = kept.findIndex((each) => each.name === name);
  return withKept(document, at < 0 ? [...kept, { name, camera }] : kept.with(at, { name, camera }));
}

export const forgetView = (document: FilaxisDocument, name: string): FilaxisDocument =>
  withKept(
    document,
    keptViews(document).filter((each) => each.name !== name),
  );

/** A name that no kept view has yet. */
export function freeViewName(document: FilaxisDocument): string {
  const names = new Set(keptViews(document).map(({ name }) => name));
  for (let i = 1; ; i++) if (!names.has(`View ${i}`)) return `View ${i}`;
}
