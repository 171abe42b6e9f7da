import { curvesIn, meshOut } from '../../definition/ports.js';
import type { Curves } from '../../geometry/curves.js';
import { doubleSided } from '../../mesh/change/doubleSided.js';
import { framesOf } from '../../curves/evaluate/frames.js';
import { thinned } from '../../skin/plan/relaxPinch.js';
import { ribbonProfile } from '../../skin/sweep/ribbon.js';
import { sweep } from '../../skin/sweep/sweep.js';
import { inwardReach } from '../../skin/sweep/sweepSection.js';
import { defineNode } from '../../definition/define.js';
import { constantField, type Field } from '../../values/field.js';
import { plainCaps } from '../../skin/parts/capUv.js';
import { families } from '../../definition/families.js';
import { tell } from './issues.js';
import { cornerSettings, cornersOf, roundedPath, withoutPinches } from '../settings/corners.js';
import { uvSettings } from '../settings/uv.js';

export default defineNode({
  type: 'skin.ribbon',
  label: 'Ribbon',
  family: families.skin,
  summary: 'A flat band along each curve, or one that curls across.',
  help: 'A strip of faces with few of them, for straps, leaves, hair cards and trails. Its face looks along the frame’s normal or its side; curl bends it across toward its face. Follows the frames of the curves, or minimal ones where there are none. UVs: u across, v along by length. Double-sided adds the back as faces of its own. Values of points and curves go on with the vertices at them.',
  attributes: { reads: ['tangent', 'normal'], writes: ['normal', 'uv', 'part'], keeps: ['point', 'curve', 'whole'] },
  keywords: ['strip', 'band', 'strap', 'card', 'leaf', 'trail', 'flat'],
  asks: {
    'thinner toward the tip': { width: { ramp: [[0, 0.1], [1, 0.01]], ease: 'linear' } }, // prettier-ignore
    'a ribbon': {},
    'a flat strap': { width: 0.05 },
    'a leaf blade': { doubleSided: true },
    'seen from both sides': { doubleSided: true },
  },
  telling: ['width'],
  thickness: { setting: 'width', toRadius: 0.5 },
  facesPerPiece: ({ columns, doubleSided }) => Number(columns) * (doubleSided === true ? 2 : 1),
  eases: { pinch: [{ label: 'Thin it where it pinches', setting: 'relaxPinch', value: true }] },
  inputs: [curvesIn],
  outputs: [meshOut],
  settings: {
    width: { kind: 'number', label: 'Width', help: 'Across. A ramp tapers it.', default: 0.1, min: 0, above: true, unit: 'm', step: 0.001, varies: 'point' },
    columns: { kind: 'integer', label: 'Columns', help: 'Faces across.', default: 1, min: 1, max: 1000 },
    curl: { kind: 'number', label: 'Curl', help: 'Bends it across, toward its face.', default: 0, min: -360, max: 360, unit: '°', step: 1 },
    face: { kind: 'choice', label: 'Face', help: 'Where it looks.', default: 'normal', choices: { normal: 'normal', side: 'side' } },
    doubleSided: { kind: 'boolean', label: 'Double-sided', help: 'Adds the back.', default: false },
    ...cornerSettings,
    ...uvSettings,
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const profile = ribbonProfile(settings);
    const halfOf = (on: Curves): Field => {
      const width = field(settings.width, on, 'point');
      return { constant: width.constant / 2, values: width.values ? width.values.map((value) => value / 2) : null };
    };
    const given = roundedPath(input('curves'), settings, halfOf, context);
    const width = field(settings.width, given, 'point');
    const zero = constantField(0);
    const section = { size: [width, width] as const, roll: zero, profileAt: zero };
    const factors = withoutPinches(given, halfOf(given), settings, (plans) => inwardReach(given, plans, framesOf(given), [profile], section));
    const size = factors ? thinned(width, factors) : width;
    const options = {
      ...settings,
      ...plainCaps,
      ...section,
      size: [size, size] as const,
      caps: 'open' as const,
      corners: cornersOf(settings),
    };
    const { mesh, issues } = sweep(given, [profile], options, context);
    tell(issues, warn);
    return { mesh: settings.doubleSided ? doubleSided(mesh) : mesh };
  },
});
