import { curvesOut } from '../../definition/ports.js';
import { outline, rectanglePlaces } from '../../curves/make/outline.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { outlineSettings, planeWays } from './outlineSettings.js';

export default defineNode({
  type: 'lay.rectangle',
  label: 'Rectangle',
  family: families.lay,
  summary: 'A rectangle as a closed outline, with sharp or rounded corners.',
  help: 'Gives a closed outline about the origin that runs counter-clockwise from the corner where both axes are least.',
  keywords: ['square', 'box', 'outline', 'profile', 'shape'],
  asks: {
    'a rectangle': {},
    'a rounded rectangle': { corner: 0.1 },
  },
  telling: ['width', 'height'],
  handles: [
    { kind: 'length', setting: 'width', along: { by: 'plane', ways: planeWays[0] }, share: 0.5 },
    { kind: 'length', setting: 'height', along: { by: 'plane', ways: planeWays[1] }, share: 0.5 },
  ],
  outputs: [curvesOut],
  settings: {
    width: { kind: 'number', label: 'Width', help: 'Along the plane’s first axis.', default: 1, min: 0, above: true, unit: 'm', step: 0.005 },
    height: { kind: 'number', label: 'Height', help: 'Along the plane’s second axis.', default: 1, min: 0, above: true, unit: 'm', step: 0.005 },
    ...outlineSettings,
  },
  run: ({ settings }) => ({ curves: outline(rectanglePlaces(settings.width, settings.height), settings.plane, settings.corner) }),
});
