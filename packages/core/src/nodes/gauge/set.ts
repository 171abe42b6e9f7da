import { anyIn, anyOut } from '../../definition/ports.js';
import { withAttributes } from '../../geometry/attributes.js';
import { carrierCount } from '../../gauge/carry.js';
import { defineNode } from '../../definition/define.js';
import type { PerElement } from '../../varying/perElement.js';
import { fieldAt } from '../../values/field.js';
import { families } from '../../definition/families.js';
import { carriers, carrierOf } from './carriers.js';

const attributeName = /^[a-z][A-Za-z0-9_]*$/;

const nameAccepts = 'a name such as width: a small letter, then letters, digits and _';

/** What the geometry itself is made of, which numbers written over it would break: the nodes that set it. */
const setElsewhere: Readonly<Record<string, string>> = {
  handleIn: 'Smooth and Drawn curves set how a curve runs',
  handleOut: 'Smooth and Drawn curves set how a curve runs',
  tangent: 'Frames set the tangents of curves',
  normal: 'Frames set the normals of curves, Normals those of meshes',
  uv: 'UVs set them on meshes',
  position: 'Displace moves points by a vector or an attribute, Transform moves all of them',
};

export default defineNode({
  type: 'gauge.set',
  label: 'Set attribute',
  family: families.gauge,
  summary: 'Writes a value of your own to points, curves, faces or copies.',
  help: 'The value may be fixed, drawn as a ramp, worked out by a formula, read from another attribute or drawn at random. Later nodes and formulas know it by its name. With a condition only those elements are written that it chooses; the others keep what they had, or get 0.',
  attributes: { named: ({ name }) => [String(name)] },
  keywords: ['attribute', 'value', 'store', 'paint', 'weight', 'channel', 'property', 'write'],
  asks: {
    'give points a value': {},
    'a random value for each': { value: { random: [0, 1], seed: 1, per: 'point' } },
    'mark every second': { name: 'mark', value: { formula: 'i % 2' } },
    'a value for each curve': { carrier: 'curves' },
  },
  telling: ['name', 'value'],
  sample: { settings: { name: 'height', value: { formula: 'y' } } },
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
    const given = input('any');
    const { name, where = true } = settings;
    const carrier = carrierOf(settings.carrier, given);
    const count = carrierCount(given, carrier);
    if (!count)
      throw new RangeError(
        `${given.type === 'mesh' ? 'A mesh has' : `${given.type[0].toUpperCase()}${given.type.slice(1)} have`} no ${carriers[settings.carrier]} to write to.`,
      );
    if (Object.hasOwn(setElsewhere, name)) throw new RangeError(`"${name}" belongs to the geometry itself; ${setElsewhere[name]}.`);
    const per: PerElement = carrier === 'corner' ? 'point' : carrier;
    const values = settings.numbers === 'three' ? [settings.value, settings.second, settings.third] : [settings.value];
    const fields = values.map((value) => field(value, given, per));
    const chosen = field(where, given, per);
    const before = given.attributes.get(name);
    const old = before?.carrier === carrier && before.size === values.length ? before.data : null;
    const data = new Float32Array(count * values.length);
    for (let i = 0; i < count; i++)
      for (let k = 0; k < values.length; k++) data[i * values.length + k] = fieldAt(chosen, i) ? fieldAt(fields[k], i) : (old?.[i * values.length + k] ?? 0);
    // A seed that came with an earlier id would hide the new one from what draws by chance.
    const hides = name === 'id' && given.attributes.get('seed')?.carrier === carrier;
    const attributes = withAttributes(given.attributes, hides ? { seed: null } : {});
    return { any: { ...given, attributes: withAttributes(attributes, { [name]: { carrier, size: values.length, data } }) } };
  },
});
