import { curvesIn, meshOut } from '../../definition/ports.js';
import { paced } from '../../curves/change/resample.js';
import { rope } from '../../skin/rope/rope.js';
import { largestOf } from '../../values/field.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { tell } from './issues.js';
import { uvSettings } from '../settings/uv.js';
import { capsSetting } from '../settings/caps.js';

export default defineNode({
  type: 'skin.rope',
  label: 'Rope',
  family: families.skin,
  summary: 'A laid rope of twisted strands along each curve.',
  help: 'Winds strands round each curve. Strands touch their neighbours in space, so at short lays they are thinner than the flat section suggests. Lay length is one turn of a strand along the rope (2.5 to 4 diameters for fibre rope, 6 to 7.5 for wire; common practice). Strands may be laid of yarns once more, the other way round (six strands of seven wires make a common wire rope). Plaited ropes have strands of both hands that go over one and under one. Strands begin on the frames of the curves and turn with them. A closed curve gets a whole number of turns, so that the strands meet. Values of points and curves go on with the vertices at them.',
  attributes: { reads: ['tangent', 'normal'], writes: ['normal', 'uv', 'part'], keeps: ['point', 'curve', 'whole'] },
  keywords: ['braid', 'plait', 'yarn', 'strand', 'twist', 'laid', 'cord', 'cable', 'line', 'lay'],
  asks: {
    'thinner toward the tip': { diameter: { ramp: [[0, 0.05], [1, 0.005]], ease: 'linear' } }, // prettier-ignore
    'a rope': {},
    'a braided rope': { braid: '8' },
    'four strands': { strands: 4 },
    'a thicker rope': { diameter: 0.06 },
    'twist the rope tighter': { layLength: 0.08 },
    'a wire rope': { strands: 6, yarns: 6 },
    'round the rope ends': { caps: 'domed' },
  },
  telling: ['diameter', 'strands'],
  usualAfter: { curves: 5 },
  thickness: { setting: 'diameter', toRadius: 0.5 },
  inputs: [curvesIn],
  outputs: [meshOut],
  settings: {
    diameter: {
      kind: 'number',
      label: 'Diameter',
      help: 'Of the whole rope. A ramp tapers it.',
      default: 0.04,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.0005,
      varies: 'point',
    },
    strands: { kind: 'integer', label: 'Strands', help: 'How many are twisted together.', default: 3, min: 1, max: 64, shownWhen: { braid: ['none'] } },
    layLength: {
      kind: 'number',
      label: 'Lay length',
      help: 'Length along the rope of one turn of a strand; by itself seven times the diameter (common practice), of several the largest.',
      default: 0,
      earlier: { before: 3, default: 0.28 },
      special: { called: '7 × diameter', instead: 0.28 },
      min: 0,
      unit: 'm/turn',
      step: 0.001,
    },
    turnsPerMetre: {
      kind: 'number',
      label: 'Turns per metre',
      help: 'Used instead of the lay length.',
      default: 0,
      special: { called: 'by lay length', instead: 4 },
      min: 0,
      max: 10_000,
      unit: '/m',
      step: 0.05,
    },
    braid: {
      kind: 'choice',
      label: 'Plait',
      help: 'Laid: all strands turn the same way. Plaited: half of 8, 12 or 16 strands turn the other way, each over one and under one.',
      default: 'none',
      choices: { none: 'laid', '8': '8 strands', '12': '12 strands', '16': '16 strands' },
      aliases: { '0': 'none', false: 'none' },
    },
    yarns: {
      kind: 'integer',
      label: 'Yarns',
      help: 'Yarns that each strand is laid of, the other way round; or smooth strands.',
      default: 0,
      special: { called: 'smooth', instead: 3 },
      min: 0,
      max: 24,
    },
    hand: {
      kind: 'choice',
      label: 'Hand',
      help: 'Right is the common lay: strands rise to the right.',
      default: 'right',
      choices: { right: 'right', left: 'left' },
    },
    sides: { kind: 'integer', label: 'Sides', help: 'Corners of a strand’s section.', default: 8, min: 3, max: 256 },
    ringsPerTurn: { kind: 'integer', label: 'Rings per turn', help: 'How finely a strand is divided along one turn.', default: 16, min: 4, max: 256 },
    core: { kind: 'boolean', label: 'Core', help: 'Fills the hole in the middle with a straight strand.', default: false },
    caps: capsSetting,
    ...uvSettings,
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const given = paced(input('curves'), context);
    const diameter = field(settings.diameter, given, 'point');
    const layLength = settings.turnsPerMetre > 0 ? 1 / settings.turnsPerMetre : settings.layLength || 7 * largestOf(diameter);
    const plaited = settings.braid !== 'none';
    const strands = plaited ? Number(settings.braid) : settings.strands;
    const { mesh, issues } = rope(given, { ...settings, lay: plaited ? 'plaited' : 'laid', strands, layLength, diameter }, context);
    tell(issues, warn);
    return { mesh };
  },
});
