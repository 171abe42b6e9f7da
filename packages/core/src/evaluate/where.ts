import { withAttributes, type Attribute } from '../geometry/attributes.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import { takeCurves } from '../geometry/gather.js';
import type { Geometry } from '../geometry/geometry.js';
import { joinCurves } from '../geometry/join.js';
import { refreshNormals } from '../mesh/change/normals.js';
import { elementCount, ownElements, type PerElement } from '../varying/perElement.js';
import { fieldAt, type Field } from '../values/field.js';
import { FormulaError } from '../values/formula/tokens.js';
import { resolveVarying, type Varying } from '../varying/varying.js';
import { SettingError } from './context.js';
import type { Inputs } from './inputs.js';
import { type Varied } from './result.js';
import type { NodeDefinition, Outputs, Value, WhereLevel } from '../definition/define.js';

/** The elements of `given` that a condition of this level is asked for; null where it cannot be asked. */
export function whereElements(level: WhereLevel, given: Geometry): PerElement | null {
  if (level === 'none' || level === 'self') return null;
  if (level === 'curve') return given.type === 'curves' ? 'curve' : null;
  if (level === 'face') return given.type === 'mesh' ? 'face' : null;
  return ownElements[given.type];
}

/** The curves for which `chosen` holds, and the others, each with their numbers in the given ones. */
export function partCurves(curves: Curves, chosen: Field): { chosen: Curves; rest: Curves; which: number[]; others: number[] } {
  const which: number[] = [];
  const others: number[] = [];
  for (let c = 0; c < curveCount(curves); c++) (fieldAt(chosen, c) ? which : others).push(c);
  return { chosen: takeCurves(curves, which), rest: takeCurves(curves, others), which, others };
}

/**
 * Chosen curves as a node made them, among those left as they were: in their old order when each gave one, else after the others.
 */
export function putBack(made: Curves, { rest, which, others }: { rest: Curves; which: readonly number[]; others: readonly number[] }): Curves {
  const joined = joinCurves([rest, made]);
  if (curveCount(made) !== which.length) return joined;
  const order = new Array<number>(which.length + others.length);
  others.forEach((c, k) => (order[c] = k));
  which.forEach((c, k) => (order[c] = others.length + k));
  return takeCurves(joined, order);
}

/**
 * The result of a node where `chosen` holds, what was given elsewhere. Normals of a mesh are found anew.
 * @throws RangeError when the node gave another kind or number of elements, so that they cannot be told apart.
 */
export function blended(given: Geometry, made: Value, chosen: Field, per: PerElement): Geometry {
  const count = elementCount(given, per);
  if (made.type !== given.type || elementCount(made, per) !== count)
    throw new RangeError('A condition cannot choose single elements here, since the node makes others; use it on all or none.');
  const rows = (from: Attribute | undefined, to: Attribute): Attribute => {
    if (!from || from.size !== to.size || from.carrier !== to.carrier || to.data.length !== count * to.size) return to;
    return { ...to, data: mixed(from.data, to.data, to.size, chosen, count) };
  };
  const attributes = withAttributes(
    made.attributes,
    Object.fromEntries([...made.attributes].map(([name, attribute]) => [name, rows(given.attributes.get(name), attribute)])),
  );
  if (made.type === 'copies' && given.type === 'copies') return { ...made, attributes, matrices: mixed(given.matrices, made.matrices, 16, chosen, count) };
  if (made.type === 'copies' || given.type === 'copies' || per !== 'point') return { ...made, attributes };
  const result = { ...made, attributes, positions: mixed(given.positions, made.positions, 3, chosen, count) } as Geometry;
  return result.type === 'mesh' && given.type === 'mesh' ? refreshNormals(result, given) : result;
}

function mixed(from: Float32Array, to: Float32Array, size: number, chosen: Field, count: number): Float32Array {
  const data = to.slice();
  for (let i = 0; i < count; i++) if (!fieldAt(chosen, i)) data.set(from.subarray(i * size, (i + 1) * size), i * size);
  return data;
}

/** Runs a node on the elements for which its condition holds, and leaves the others as they were given. */
export async function runWhere(
  definition: NodeDefinition,
  where: Varying,
  given: Inputs,
  varied: Varied,
  run: (given: Inputs) => Outputs | Promise<Outputs>,
): Promise<Outputs> {
  const port = definition.inputs[0].name;
  const subject = given.get(port)![0];
  if (definition.where === 'self') return run(given);
  const per = whereElements(definition.where, subject);
  if (!per) throw new SettingError('where', `A condition cannot choose elements of ${subject.type} here; use it on all or none.`);
  varied['where'] = { over: subject, per };
  const chosen = chosenBy(where, subject, per);
  if (subject.type === 'curves' && per === 'curve') {
    const parts = partCurves(subject, chosen);
    if (!parts.which.length) return { [definition.outputs[0].name]: subject };
    const made = await run(new Map([...given, [port, [parts.chosen]]]));
    return Object.fromEntries(Object.entries(made).map(([name, value]) => [name, value.type === 'curves' ? putBack(value, parts) : value]));
  }
  return Object.fromEntries(Object.entries(await run(given)).map(([name, value]) => [name, blended(subject, value, chosen, per)]));
}

function chosenBy(where: Varying, subject: Geometry, per: PerElement): Field {
  try {
    return resolveVarying(where, subject, per, { label: 'Only where' });
  } catch (error) {
    throw error instanceof FormulaError ? new SettingError('where', `Only where: ${error.message}.`) : error;
  }
}
