import type { Settings } from '../../definition/settings.js';

export const uvSettings = {
  uvScale: {
    kind: 'number',
    label: 'UV tile',
    help: 'Metres per UV tile, around and along; or fitted, 0…1 around and along the whole length.',
    default: 0,
    special: { called: 'fitted', instead: 0.25 },
    min: 0,
    unit: 'm',
    step: 0.001,
    group: 'UVs',
  },
} as const satisfies Settings;
