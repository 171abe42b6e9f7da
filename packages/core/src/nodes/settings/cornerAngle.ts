/** What counts as a corner of a curve. */
export const cornerAngle = {
  kind: 'number',
  label: 'Angle',
  help: 'A corner turns by more than this.',
  default: 30,
  min: 0,
  max: 180,
  unit: '°',
  step: 1,
} as const;
