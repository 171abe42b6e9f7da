import { withAttributes, type Carrier } from '../../geometry/attributes.js';
import type { Geometry } from '../../geometry/geometry.js';
import { carrierCount, carryOver, carryRules } from '../../gauge/carry.js';
import { figures, shapeFigures, type Figure } from '../../gauge/figures.js';
import { distanceTo, transfer } from '../../gauge/nearest.js';
import { summarise } from '../../gauge/summary.js';
import { defineNode } from '../../graph/define.js';
import type { Settings } from '../../graph/settings.js';
import type { PerElement } from '../../values/elements.js';
import { fieldAt } from '../../values/field.js';
import { families } from '../families.js';

const anyIn = { name: 'any', kinds: ['any'] } as const;
const anyOut = { name: 'any', kind: 'any' } as const;

const attributeName = /^[a-z][A-Za-z0-9_]*$/;
const nameAccepts = 'a name such as width: a small letter, then letters, digits and _';
/** Attributes that describe how smooth curves run; writing numbers over them would break the curves. */
const kept = ['handleIn', 'handleOut', 'tangent', 'normal', 'uv', 'position'];

const carriers = {
  whole: 'the whole',
  curves: 'curves',
  faces: 'faces',
  corners: 'corners',
  points: 'points',
  copies: 'copies',
} as const;

/** The carrier that a choice means on a geometry: a mesh keeps values of points with its vertices. */
function carrierOf(choice: keyof typeof carriers, geometry: Geometry): Carrier {
  if (choice === 'whole') return 'whole';
  const carrier = ({ points: 'point', curves: 'curve', corners: 'corner', faces: 'face', copies: 'copy' } as const)[choice];
  return carrier === 'point' && geometry.type === 'mesh' ? 'corner' : carrier;
}

export const setNode = defineNode({
  type: 'gauge.set',
  label: 'Set attribute',
  family: families.gauge,
  summary: 'Writes a value of your own to points, curves, faces or copies.',
  help: 'The value may be fixed, drawn as a ramp, worked out by a formula, read from another attribute or drawn at random. Later nodes and formulas know it by its name. With a condition only those elements are written that it chooses; the others keep what they had, or get 0.',
  keywords: ['attribute', 'value', 'store', 'paint', 'weight', 'channel', 'property', 'write'],
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'self',
  settings: {
    name: { kind: 'text', label: 'Name', help: 'What later nodes and formulas call it.', default: 'value', pattern: attributeName, accepts: nameAccepts },
    carrier: { kind: 'choice', label: 'Carried by', help: 'What carries the value.', default: 'points', choices: carriers },
    numbers: { kind: 'choice', label: 'Numbers', help: 'One number an element, or three.', default: 'one', choices: { one: 'one', three: 'three' } },
    value: { kind: 'number', label: 'Value', help: 'The value, or the first of three.', default: 0, step: 0.01, varies: 'point' },
    second: {
      kind: 'number',
      label: 'Second',
      help: 'The second of three numbers.',
      default: 0,
      step: 0.01,
      varies: 'point',
      shownWhen: { numbers: ['three'] },
    },
    third: { kind: 'number', label: 'Third', help: 'The third of three numbers.', default: 0, step: 0.01, varies: 'point', shownWhen: { numbers: ['three'] } },
  },
  run: ({ settings, input, field }) => {
    const given = input('any')!;
    const { name, where = true } = settings;
    const carrier = carrierOf(settings.carrier, given);
    const count = carrierCount(given, carrier);
    if (!count)
      throw new RangeError(
        `${given.type === 'mesh' ? 'A mesh has' : `${given.type[0].toUpperCase()}${given.type.slice(1)} have`} no ${carriers[settings.carrier]} to write to.`,
      );
    if (kept.includes(name)) throw new RangeError(`"${name}" is what the geometry itself is made of; choose another name.`);
    const per: PerElement = carrier === 'corner' ? 'point' : carrier;
    const values = settings.numbers === 'three' ? [settings.value, settings.second, settings.third] : [settings.value];
    const fields = values.map((value) => field(value, given, per));
    const chosen = field(where, given, per);
    const before = given.attributes.get(name);
    const old = before?.carrier === carrier && before.size === values.length ? before.data : null;
    const data = new Float32Array(count * values.length);
    for (let i = 0; i < count; i++)
      for (let k = 0; k < values.length; k++) data[i * values.length + k] = fieldAt(chosen, i) ? fieldAt(fields[k], i) : (old?.[i * values.length + k] ?? 0);
    return { any: { ...given, attributes: withAttributes(given.attributes, { [name]: { carrier, size: values.length, data } }) } };
  },
});

const figureSettings = Object.fromEntries(
  Object.entries(figures).map(([name, { help }]) => [
    name,
    {
      kind: 'boolean',
      label: name === 's' ? 'Metres along (s)' : name === 't' ? 'Share of length (t)' : name[0].toUpperCase() + name.slice(1),
      help: `Writes ${name}: ${help}.`,
      default: ['length', 's', 't', 'curvature', 'area'].includes(name),
    },
  ]),
) as Settings;

export const figuresNode = defineNode({
  type: 'gauge.figures',
  label: 'Shape figures',
  family: families.gauge,
  summary: 'Writes length, place along, curvature, slope, area … as attributes.',
  help: 'Each figure becomes an attribute of its name, to be read by formulas and ramps, seen in colour and listed in Values. Figures that a geometry does not have are left out: faces have area and slope, curves the others.',
  keywords: ['measure', 'length', 'curvature', 'torsion', 'area', 'slope', 'info'],
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: figureSettings,
  run: (context) => {
    const values: Readonly<Record<string, unknown>> = context.settings;
    const wanted = new Set((Object.keys(figures) as Figure[]).filter((name) => values[name] === true));
    return { any: shapeFigures(context.input('any')!, wanted, context) };
  },
});

export const summaryNode = defineNode({
  type: 'gauge.summary',
  label: 'Summary',
  family: families.gauge,
  summary: 'The least, greatest, mean, sum or count of an attribute, as a number.',
  help: 'Gives the number to be wired to settings, and passes on what came in. With a group attribute it also writes each group’s figure back as name_figure. Values that are not finite are left out, with a warning.',
  attributes: { keeps: ['point', 'curve', 'corner', 'face', 'copy', 'whole'] },
  keywords: ['minimum', 'maximum', 'average', 'total', 'statistics', 'aggregate', 'count'],
  inputs: [anyIn],
  outputs: [{ name: 'number', kind: 'number' }, anyOut],
  settings: {
    attribute: { kind: 'text', label: 'Attribute', help: 'The attribute it is taken of.', default: 'length' },
    figure: {
      kind: 'choice',
      label: 'Figure',
      help: 'Which figure.',
      default: 'mean',
      choices: { mean: 'mean', sum: 'sum', min: 'least', max: 'greatest', count: 'count' },
    },
    group: { kind: 'text', label: 'Per', help: 'An attribute: each of its values makes a group. Empty: all together.', default: '' },
  },
  run: ({ settings, input, warn }) => {
    const { value, geometry, leftOut } = summarise(input('any')!, settings.attribute, settings.figure, settings.group);
    if (leftOut)
      warn({
        code: 'degenerate',
        message: `${leftOut} values of "${settings.attribute}" are not finite and were left out.`,
        remedy: 'Look at the node that writes it.',
      });
    return { number: { type: 'number', value }, any: geometry };
  },
});

const toIn = { name: 'to', kinds: ['any'] } as const;

export const distanceNode = defineNode({
  type: 'gauge.distance',
  label: 'Distance to',
  family: families.gauge,
  summary: 'Writes how far each point or copy is from curves, points or a mesh.',
  help: 'Writes distance, in metres, to every point, vertex or copy. Curves count by their whole length, meshes by their faces, and points by themselves. Use it in a formula or a ramp: smaller near the path is one setting, Size as a ramp over distance.',
  attributes: { writes: ['distance'] },
  keywords: ['near', 'proximity', 'falloff', 'closest', 'range', 'far'],
  inputs: [anyIn, toIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: {
    reach: { kind: 'number', label: 'Reach', help: 'What is further away gets this distance; 0: however far.', default: 0, min: 0, unit: 'm', step: 0.05 },
    place: { kind: 'boolean', label: 'Nearest place', help: 'Also writes the nearest place, as nearest.', default: false },
  },
  run: (context) => ({ any: distanceTo(context.input('any')!, context.input('to')!, context.settings, context) }),
});

export const transferNode = defineNode({
  type: 'gauge.transfer',
  label: 'Take from nearest',
  family: families.gauge,
  summary: 'Takes attributes over from the nearest place of another geometry.',
  help: 'Each point, vertex or copy takes the values of the nearest place: interpolated along curves and over faces, or those of the nearest face; or of the element with the same id, or of the same place in the list. By id, elements without a partner keep what they had.',
  keywords: ['copy', 'sample', 'project', 'nearest', 'attribute', 'lookup'],
  inputs: [anyIn, toIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: {
    attribute: { kind: 'text', label: 'Attributes', help: 'Names, with commas between them.', default: 'value' },
    by: {
      kind: 'choice',
      label: 'From',
      help: 'Where the values are taken from.',
      default: 'nearest',
      choices: { id: 'same id', index: 'same place in list', nearest: 'nearest place', face: 'nearest face' },
      aliases: { nearestFace: 'face', nearestPlace: 'nearest', byIndex: 'index', samePlaceInList: 'index', sameId: 'id' },
    },
  },
  run: (context) => {
    const { attribute, by } = context.settings;
    const names = attribute.split(',').map((name) => name.trim()).filter((name) => name); // prettier-ignore
    const { geometry, alone } = transfer(context.input('any')!, context.input('to')!, names, by, context);
    if (alone)
      context.warn({
        code: 'unequal-lists',
        message: `${alone} elements have an id that nothing in "to" has; they keep what they had.`,
        remedy: 'Take from the nearest place, or give both the same ids.',
      });
    return { any: geometry };
  },
});

export const carryNode = defineNode({
  type: 'gauge.carry',
  label: 'Carry over',
  family: families.gauge,
  summary: 'Carries an attribute from points to curves, faces or the whole, or back.',
  help: 'Where several values meet they become their mean, least, greatest, first or sum. On a mesh points and corners are carried to faces, and faces to their corners.',
  keywords: ['hand on', 'convert', 'interpolate', 'average', 'carrier', 'from points to faces'],
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: {
    attribute: { kind: 'text', label: 'Attribute', help: 'The attribute that is carried over.', default: 'value' },
    to: { kind: 'choice', label: 'To', help: 'What carries it afterwards.', default: 'curves', choices: carriers },
    rule: {
      kind: 'choice',
      label: 'Where several meet',
      help: 'What they become.',
      default: 'mean',
      choices: Object.fromEntries(
        carryRules.map((rule) => [rule, { mean: 'mean', min: 'least', max: 'greatest', first: 'first', sum: 'sum' }[rule]]),
      ) as Record<(typeof carryRules)[number], string>,
    },
  },
  run: ({ settings, input }) => {
    const given = input('any')!;
    return { any: carryOver(given, settings.attribute, carrierOf(settings.to, given), settings.rule) };
  },
});
