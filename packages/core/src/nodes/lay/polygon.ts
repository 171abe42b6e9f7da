import { curvesOut } from '../../definition/ports.js';
import { outline, polygonPlaces } from '../../curves/make/outline.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { outlineSettings, planeWays } from './outlineSettings.js';

export default defineNode({
  type: 'lay.polygon',
  label: 'Polygon or star',
  family: families.lay,
  summary: 'A regular polygon, or a star, as a closed outline.',
  help: 'Gives a closed outline about the origin with its first corner along the plane’s first axis, running counter-clockwise. An inner ratio below 1 puts a second, inner corner between any two: a star. Corners may be rounded.',
  keywords: ['triangle', 'hexagon', 'star', 'outline', 'profile', 'regular', 'shape'],
  asks: {
    'a star': { inner: 0.5 },
    'a hexagon': { sides: 6 },
    'a triangle': { sides: 3 },
    'round the corners of a star': { inner: 0.5, corner: 0.02 },
  },
  telling: ['sides', 'radius'],
  handles: [
    { kind: 'length', setting: 'radius', along: { by: 'plane', ways: planeWays[0] } },
    { kind: 'angle', setting: 'start', about: { by: 'plane', ways: { XY: [0, 0, 1], XZ: [0, 1, 0], YZ: [1, 0, 0] } } },
  ],
  outputs: [curvesOut],
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
