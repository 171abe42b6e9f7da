import { edgesOf, type Material, type Mesh } from '@filaxis/core';

/** Whether a surface has a border, so that its back is seen. */
export function isOpen(mesh: Mesh): boolean {
  const { sides, count } = edgesOf(mesh);
  for (let e = 0; e < count; e++) if (sides[e] === 1) return true;
  return false;
}

/** Whether the backs of faces are seen: as their material says, else where the surface is open. */
export const backsAreSeen = (material: Material | null | undefined, open: boolean): boolean => material?.doubleSided ?? open;
