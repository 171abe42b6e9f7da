import type { Material } from '@filaxis/core';

/** Whether the backs of faces are seen: as their material says, else where the surface is open. */
export const backsAreSeen = (material: Material | null | undefined, open: boolean): boolean => material?.doubleSided ?? open;
