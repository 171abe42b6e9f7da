import { meshOut } from '../../definition/ports.js';
import { curvesFromLists } from '../../geometry/curves.js';
import { plainCaps } from '../../skin/parts/capUv.js';
import { tube } from '../../skin/tube/tube.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { capsSetting } from '../settings/caps.js';

export default defineNode({
  type: 'lay.cylinder',
  label: 'Cylinder',
  family: families.lay,
  summary: 'An upright cylinder or cone about the origin.',
  help: 'Stands along y with its middle in the origin. Another radius at the top makes a cone or a tapered post; 0 there closes it on a point. It is laid out as tubes are: u around, v along, caps flat and by themselves.',
  attributes: { writes: ['normal', 'uv', 'part'] },
  keywords: ['cone', 'post', 'pole', 'bollard', 'drum', 'body', 'round'],
  asks: {
    'a post': { radius: 0.1, height: 1.2 },
    'a cone': { radiusTop: 0 },
    'a tapered pole': { radiusTop: 0.05 },
    'close the ends of a post': { caps: 'flat' },
  },
  telling: ['radius', 'height'],
  handles: [
    { kind: 'length', setting: 'radius', along: [1, 0, 0] },
    { kind: 'length', setting: 'height', along: [0, 1, 0], share: 0.5 },
    { kind: 'length', setting: 'radiusTop', along: [1, 0, 0], from: { setting: 'height', along: [0, 1, 0], share: 0.5 } },
  ],
  outputs: [meshOut],
  settings: {
    radius: { kind: 'number', label: 'Radius', help: 'At the foot.', default: 0.5, min: 0, above: true, unit: 'm', step: 0.005 },
    radiusTop: {
      kind: 'number',
      label: 'Radius at top',
      help: 'Less makes a cone, with a point at 0.',
      default: -1,
      unit: 'm',
      step: 0.005,
      special: { called: 'as at the foot', instead: 0.1 },
    },
    height: { kind: 'number', label: 'Height', help: 'From foot to top.', default: 2, min: 0, above: true, unit: 'm', step: 0.01 },
    sides: { kind: 'integer', label: 'Sides', help: 'Corners of the section.', default: 24, min: 3, max: 4096 },
    caps: { ...capsSetting, default: 'flat', help: 'How foot and top are closed.' },
  },
  run: (context) => {
    const { radius, radiusTop, height, sides, caps } = context.settings;
    const line = curvesFromLists([[[0, -height / 2, 0], [0, height / 2, 0]]]); // prettier-ignore
    const values = Float64Array.of(radius, radiusTop < 0 ? radius : radiusTop);
    const options = { ...plainCaps, radius: { constant: 0, values }, sides, caps, corners: 'asIs', uvScale: 0, ringStep: 1 } as const;
    return { mesh: tube(line, options, context).mesh };
  },
});
