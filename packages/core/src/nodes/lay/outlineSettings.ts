import { outlinePlanes } from '../../curves/make/outline.js';
import type { Triple } from '../../definition/handles.js';
import type { Settings } from '../../definition/settings.js';

export const outlineSettings = {
  corner: { kind: 'number', label: 'Corner', help: 'Radius that rounds the corners; 0 keeps them sharp.', default: 0, min: 0, unit: 'm', step: 0.002 },
  plane: {
    kind: 'choice',
    label: 'Plane',
    help: 'The plane it lies in. Profiles for a Sweep are best drawn in XY.',
    default: 'XY',
    choices: { XY: 'XY', XZ: 'XZ', YZ: 'YZ' },
    aliases: { xy: 'XY', xz: 'XZ', yz: 'YZ', xY: 'XY', xZ: 'XZ', yZ: 'YZ' },
  },
} as const satisfies Settings;

/** The first and the second axis of each plane. */
export const planeWays = [0, 1].map((k) => Object.fromEntries(Object.entries(outlinePlanes).map(([plane, axes]) => [plane, axes[k] as unknown as Triple])));
