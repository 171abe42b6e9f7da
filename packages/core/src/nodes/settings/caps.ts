import type { Settings } from '../../definition/settings.js';

export const capsSetting = {
  kind: 'choice',
  label: 'Caps',
  help: 'How open ends are closed.',
  default: 'open',
  choices: { open: 'open', flat: 'flat', domed: 'domed' },
} as const;

/** Where the UVs of caps lie, apart from the wall's. */
export const capSettings = {
  capOffset: { kind: 'vector', label: 'Cap offset', help: 'Moves the caps’ UVs, in tiles.', default: [0, 0], step: 0.01, group: 'UVs' },
  capTurn: { kind: 'number', label: 'Cap turn', help: 'Turns the caps’ UVs about their middle.', default: 0, unit: '°', step: 1, group: 'UVs' },
  capScale: {
    kind: 'number',
    label: 'Cap scale',
    help: 'Factor on the caps’ UVs about their middle: 2 shows a texture at half its size.',
    default: 1,
    min: 0,
    above: true,
    step: 0.01,
    group: 'UVs',
  },
} as const satisfies Settings;
