import { countsOf, type Counts, type Geometry } from '../geometry/geometry.js';
import { curvePointCount } from '../geometry/curves.js';
import { faceCount } from '../geometry/mesh.js';
import { converted } from './convert.js';
import type { NodeDefinition, Value } from '../definition/define.js';
import type { NodeResult } from './result.js';
import type { Limits } from '../base/limits.js';
import type { PlannedNode } from './plan.js';

/** Non-empty geometries by the port that they come in at, in the order of the wires. */
export type Inputs = ReadonlyMap<string, readonly Geometry[]>;

/** Non-empty geometries at each port, in the order of the wires, converted where the port takes another kind. */
export function gatherInputs(planned: PlannedNode, definition: NodeDefinition, done: ReadonlyMap<string, NodeResult>, limits: Limits): Inputs {
  const given = new Map<string, Geometry[]>();
  for (const wire of planned.wires) {
    const value = done.get(wire.node)?.outputs[wire.output];
    if (!value || value.type === 'set' || value.type === 'number' || value.type === 'vector' || isEmpty(value)) continue;
    const port = definition.inputs.find(({ name }) => name === wire.port);
    const fitting = port ? converted(value, port, limits) : value;
    const list = given.get(wire.port);
    if (list) list.push(fitting);
    else given.set(wire.port, [fitting]);
  }
  return given;
}

function isEmpty(geometry: Geometry): boolean {
  if (geometry.type === 'curves') return curvePointCount(geometry) === 0;
  if (geometry.type === 'mesh') return faceCount(geometry) === 0;
  return geometry.type === 'points' ? geometry.positions.length === 0 : geometry.object.length === 0;
}

export function sumCounts(list: readonly Geometry[]): Counts {
  const total: Counts = {};
  for (const geometry of list)
    for (const [name, count] of Object.entries(countsOf(geometry))) total[name as keyof Counts] = (total[name as keyof Counts] ?? 0) + count;
  return total;
}

/** The geometries in a value; numbers have none. */
export function geometriesOf(value: Value): Geometry[] {
  if (value.type === 'set') return Object.values(value.set) as Geometry[];
  return value.type === 'number' || value.type === 'vector' ? [] : [value];
}

/** Numbers and vectors that come by wire into settings; undefined where the wire carries none. */
export function wiredValues(planned: PlannedNode, definition: NodeDefinition, done: ReadonlyMap<string, NodeResult>): Record<string, unknown> {
  const values: Record<string, unknown> = {};
  for (const { port, node, output } of planned.wires) {
    if (!Object.hasOwn(definition.settings, port)) continue;
    const value = done.get(node)?.outputs[output];
    values[port] = value?.type === 'number' || value?.type === 'vector' ? value.value : undefined;
  }
  return values;
}
