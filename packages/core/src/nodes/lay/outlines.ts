import { outline, polygonPlaces, rectanglePlaces } from '../../curves/outline.js';
import { defineNode } from '../../graph/define.js';
import type { Settings } from '../../graph/settings.js';
import { families } from '../families.js';

const outlineSettings = {
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

export const polygon = defineNode({
  type: 'lay.polygon',
  label: 'Polygon or star',
  family: families.lay,
  summary: 'A regular polygon, or a star, as a closed outline.',
  help: 'Gives a closed outline about the origin with its first corner along the plane’s first axis, running counter-clockwise. An inner ratio below 1 puts a second, inner corner between any two: a star. Corners may be rounded.',
  keywords: ['triangle', 'hexagon', 'star', 'outline', 'profile', 'regular', 'shape'],
  outputs: [{ name: 'curves', kind: 'curves' }],
  settings: {
    sides: { kind: 'integer', label: 'Sides', help: 'Corners, or points of the star.', default: 6, min: 3, max: 100_000 },
    radius: { kind: 'number', label: 'Radius', help: 'From the centre to the corners.', default: 1, min: 0, above: true, unit: 'm', step: 0.005 },
    inner: {
      kind: 'number',
      label: 'Inner',
      help: 'Inner corners at this share of the radius; 1 has none.',
      default: 1,
      min: 0,
      max: 1,
      above: true,
      step: 0.005,
    },
    start: { kind: 'number', label: 'Start', help: 'Where the first corner lies.', default: 0, unit: '°', step: 1 },
    ...outlineSettings,
  },
  run: ({ settings, claim }) => {
    const { sides, radius, inner, start, plane, corner } = settings;
    claim({ points: sides * (inner < 1 ? 2 : 1) * (corner > 0 ? 6 : 1) });
    return { curves: outline(polygonPlaces(sides, radius, inner, start), plane, corner) };
  },
});

export const rectangle = defineNode({
  type: 'lay.rectangle',
  label: 'Rectangle',
  family: families.lay,
  summary: 'A rectangle as a closed outline, with sharp or rounded corners.',
  help: 'Gives a closed outline about the origin that runs counter-clockwise from the corner where both axes are least.',
  keywords: ['square', 'box', 'outline', 'profile', 'shape'],
  outputs: [{ name: 'curves', kind: 'curves' }],
  settings: {
    width: { kind: 'number', label: 'Width', help: 'Along the plane’s first axis.', default: 1, min: 0, above: true, unit: 'm', step: 0.005 },
    height: { kind: 'number', label: 'Height', help: 'Along the plane’s second axis.', default: 1, min: 0, above: true, unit: 'm', step: 0.005 },
    ...outlineSettings,
  },
  run: ({ settings }) => ({ curves: outline(rectanglePlaces(settings.width, settings.height), settings.plane, settings.corner) }),
});
