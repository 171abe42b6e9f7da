import type { NodeFamily } from '../definition/define.js';

/** Families in the order of the work: their ids in node types, their labels on screen. */
export const families = {
  lay: { id: 'lay', label: 'Start' },
  pace: { id: 'pace', label: 'Spacing' },
  shape: { id: 'shape', label: 'Shape' },
  aim: { id: 'aim', label: 'Orient' },
  skin: { id: 'skin', label: 'Surface' },
  place: { id: 'place', label: 'Place' },
  mesh: { id: 'mesh', label: 'Mesh' },
  grow: { id: 'grow', label: 'Grow' },
  gauge: { id: 'gauge', label: 'Attributes' },
  flow: { id: 'flow', label: 'Flow' },
} as const satisfies Record<string, NodeFamily>;
