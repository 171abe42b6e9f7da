import { curveLengths, stationsOf } from '../curves/evaluate/arcLength.js';
import { framesOf } from '../curves/evaluate/frames.js';
import type { Attribute, Carrier } from '../geometry/attributes.js';
import { curveCount, curveOfPoints, type Curves } from '../geometry/curves.js';
import type { Geometry } from '../geometry/geometry.js';
import { faceStart, type Mesh } from '../geometry/mesh.js';
import { faceAreas } from '../mesh/topology/areas.js';
import { countUp, writeDivided } from '../values/formula/blocks.js';
import type { FormulaScope, NameSource } from '../values/formula/evaluate.js';
import { drawKeys } from './drawKeys.js';
import { elementCount, type PerElement } from './perElement.js';

/** Numbers that formulas know beside those of the elements: dials by their names, `time` and `frameNumber`. */
export type GivenNumbers = Readonly<Record<string, number>>;

/** The elements of a geometry as formulas see them. */
export interface Elements {
  readonly per: PerElement;
  readonly count: number;
  readonly scope: FormulaScope;
  /** "point 4 of curve 1 (i 3, c 0)", for messages: counted from 1, as on screen, and as formulas know it. */
  describe(index: number): string;
}

/** Names that stand for the elements themselves, with what they are: for help and completion. */
export const elementNames: Readonly<Record<string, string>> = {
  i: 'number of the element in its curve, from 0',
  n: 'how many there are in its curve',
  t: 'share of the length, 0 at the start and 1 at the end',
  s: 'metres from the start of its curve',
  L: 'length of its curve, metres',
  c: 'number of its curve, from 0',
  curves: 'how many curves there are',
  id: 'number that stays with the element',
  x: 'place, metres to the right',
  y: 'place, metres up',
  z: 'place, metres to the front',
  nx: 'normal, its part along x',
  ny: 'normal, its part along y',
  nz: 'normal, its part along z',
  u: 'first UV coordinate (meshes)',
  v: 'second UV coordinate (meshes)',
  area: 'area of the face, square metres (faces)',
};

/** Carriers of attributes that elements of this kind can read, the nearest first. A mesh keeps the values of points with its vertices. */
function carriersOf(geometry: Geometry, per: PerElement): readonly Carrier[] {
  if (per === 'point') return geometry.type === 'mesh' ? ['corner', 'whole'] : ['point', 'curve', 'whole'];
  return per === 'whole' ? ['whole'] : [per, 'whole'];
}

const fromColumn = (data: ArrayLike<number>, size: number, offset: number): NameSource => ({
  fill: (out, from, count) => {
    for (let k = 0, at = from * size + offset; k < count; k++, at += size) out[k] = data[at];
  },
});

/**
 * Values of points from their curve and their number in it, a curve at a time: `write` fills the points `from` … `to` − 1 of curve `c` into `out`
 * at `o`.
 */
const along = (curves: Curves, write: (out: Float64Array, o: number, c: number, from: number, to: number) => void): NameSource => {
  const curve = curveOfPoints(curves);
  return {
    fill: (out, first, count) => {
      const end = first + count;
      for (let i = first, c = curve[first]; i < end; c++) {
        const to = Math.min(end, curves.starts[c + 1]);
        if (to > i) write(out, i - first, c, i, to);
        i = Math.max(i, to);
      }
    },
  };
};

const computed = (at: (i: number) => number): NameSource => ({
  fill: (out, from, count) => {
    for (let k = 0; k < count; k++) out[k] = at(from + k);
  },
});

type Sources = Readonly<Record<string, () => NameSource | string>>;

/** The elements of a geometry with all names that formulas may use for them: their own, attributes, then the given numbers. */
export function elementsOf(geometry: Geometry, per: PerElement, given: GivenNumbers = {}, known: readonly string[] = Object.keys(given)): Elements {
  const count = elementCount(geometry, per);
  const own = ownNames(geometry, per, count);
  const carriers = carriersOf(geometry, per);
  const spread = (attribute: Attribute, offset = 0): NameSource | string => spreadOver(geometry, per, attribute, offset);
  const source = (name: string): NameSource | string | undefined => {
    const attribute = geometry.attributes.get(name);
    if (attribute && carriers.includes(attribute.carrier) && attribute.size === 1) return spread(attribute);
    if (Object.hasOwn(own, name)) return own[name]();
    if (attribute && attribute.size > 1) return `"${name}" has ${attribute.size} numbers an element; a formula takes values of one number`;
    if (attribute) return `"${name}" is a value of each ${attribute.carrier}, and cannot be read for a ${per}; carry it over first`;
    return Object.hasOwn(given, name) ? given[name] : undefined;
  };
  const attributeNames = [...geometry.attributes].filter(([, { carrier, size }]) => size === 1 && carriers.includes(carrier)).map(([name]) => name);
  return {
    per,
    count,
    scope: {
      source,
      names: [...new Set([...Object.keys(own), ...attributeNames, ...known])],
      id: keySource(geometry, per),
    },
    describe: (index) => {
      if (per === 'point' && geometry.type === 'curves') {
        const c = curveOfPoints(geometry)[index];
        const i = index - geometry.starts[c];
        return `point ${i + 1} of curve ${c + 1} (i ${i}, c ${c})`;
      }
      if (per === 'whole') return 'the whole';
      return `${per === 'point' && geometry.type === 'mesh' ? 'vertex' : per} ${index + 1} (i ${index})`;
    },
  };
}

/** What `random(k)` draws by; worked out when it is asked for. */
const keySource = (geometry: Geometry, per: PerElement): NameSource => ({
  fill: (out, from, count) => {
    const keys = drawKeys(geometry, per);
    for (let k = 0; k < count; k++) out[k] = keys[from + k];
  },
});

/** One of the numbers of an attribute that has several, for elements of a kind; a text: why it cannot be read. */
export function componentOf(geometry: Geometry, per: PerElement, name: string, component: number): NameSource | string {
  const attribute = geometry.attributes.get(name);
  if (!attribute || component >= attribute.size) return `there is no such attribute of ${component + 1} numbers`;
  if (!carriersOf(geometry, per).includes(attribute.carrier))
    return `it is a value of each ${attribute.carrier}, and cannot be read for a ${per}; carry it over first`;
  return spreadOver(geometry, per, attribute, component);
}

/** Values of an attribute for elements of a kind: its own, or those of the curve or whole that the element belongs to. */
function spreadOver(geometry: Geometry, per: PerElement, { carrier, size, data }: Attribute, offset: number): NameSource | string {
  if (carrier === 'whole') return data[offset];
  if (carrier === 'curve' && per === 'point' && geometry.type === 'curves') {
    const curve = curveOfPoints(geometry);
    return computed((i) => data[curve[i] * size + offset]);
  }
  return fromColumn(data, size, offset);
}

function ownNames(geometry: Geometry, per: PerElement, count: number): Sources {
  if (per === 'whole') return {};
  const plain: Sources = { i: () => computed((i) => i), n: () => count, id: () => computed((i) => i) };
  if (geometry.type === 'curves') return { ...plain, ...(per === 'point' ? curvePointNames(geometry) : curveNames(geometry, count)) };
  if (geometry.type === 'points') return { ...plain, ...pointNames(geometry.positions, geometry.attributes.get('normal'), count) };
  if (geometry.type === 'mesh') return { ...plain, ...(per === 'point' ? vertexNames(geometry) : faceNames(geometry)) };
  return { ...plain, ...placeNames(geometry.matrices, 16, 12) };
}

const placeNames = (data: ArrayLike<number>, size: number, offset: number): Sources => ({
  x: () => fromColumn(data, size, offset),
  y: () => fromColumn(data, size, offset + 1),
  z: () => fromColumn(data, size, offset + 2),
});

const normalNames = (normal: () => ArrayLike<number> | null, owner: string): Sources => {
  const at = (k: number): NameSource | string => {
    const data = normal();
    return data ? fromColumn(data, 3, k) : `${owner} have no normals here`;
  };
  return { nx: () => at(0), ny: () => at(1), nz: () => at(2) };
};

function pointNames(positions: Float32Array, normal: Attribute | undefined, count: number): Sources {
  return {
    ...placeNames(positions, 3, 0),
    ...normalNames(() => normal?.data ?? null, 'these points'),
    // Points that do not come from curves have a place among each other.
    t: () => computed((i) => (count > 1 ? i / (count - 1) : 0)),
  };
}

function curvePointNames(curves: Curves): Sources {
  const { starts } = curves;
  return {
    i: () => along(curves, (out, o, c, from, to) => countUp(out, o, from - starts[c], to - from)),
    n: () => along(curves, (out, o, c, from, to) => void out.fill(starts[c + 1] - starts[c], o, o + to - from)),
    t: () => {
      const stations = stationsOf(curves);
      const lengths = curveLengths(curves);
      return along(curves, (out, o, c, from, to) => {
        writeDivided(out, o, stations, from, to, lengths[c] > 0 ? lengths[c] : Infinity);
      });
    },
    s: () => fromColumn(stationsOf(curves), 1, 0),
    L: () => {
      const lengths = curveLengths(curves);
      return along(curves, (out, o, c, from, to) => void out.fill(lengths[c], o, o + to - from));
    },
    c: () => along(curves, (out, o, c, from, to) => void out.fill(c, o, o + to - from)),
    curves: () => curveCount(curves),
    ...placeNames(curves.positions, 3, 0),
    ...normalNames(() => framesOf(curves).normal, 'these curves'),
  };
}

/** Of each curve: its place is the mean of its points, t its place among the curves. */
function curveNames(curves: Curves, count: number): Sources {
  const mean = (k: number) => (): NameSource =>
    computed((c) => {
      let sum = 0;
      for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) sum += curves.positions[i * 3 + k];
      return sum / Math.max(1, curves.starts[c + 1] - curves.starts[c]);
    });
  return {
    t: () => computed((c) => (count > 1 ? c / (count - 1) : 0)),
    s: () => 0,
    L: () => fromColumn(curveLengths(curves), 1, 0),
    c: () => computed((c) => c),
    curves: () => count,
    x: mean(0),
    y: mean(1),
    z: mean(2),
  };
}

function vertexNames(mesh: Mesh): Sources {
  const uv = mesh.attributes.get('uv');
  const at = (k: number) => (): NameSource | string => (uv ? fromColumn(uv.data, uv.size, k) : 'this mesh has no UVs');
  return {
    ...(mesh.pointOf && { id: () => fromColumn(mesh.pointOf!, 1, 0), i: () => fromColumn(mesh.pointOf!, 1, 0), n: () => mesh.pointCount }),
    ...placeNames(mesh.positions, 3, 0),
    ...normalNames(() => mesh.attributes.get('normal')?.data ?? null, 'these vertices'),
    u: at(0),
    v: at(1),
  };
}

/** Of each face: its place is the mean of its corners. */
function faceNames(mesh: Mesh): Sources {
  const p = mesh.positions;
  const mean = (k: number) => (): NameSource =>
    computed((f) => {
      const [from, to] = [faceStart(mesh, f), faceStart(mesh, f + 1)];
      let sum = 0;
      for (let j = from; j < to; j++) sum += p[mesh.corners[j] * 3 + k];
      return sum / (to - from);
    });
  let areas: Float64Array | null = null;
  const part = (k: number) => (): NameSource => {
    const data = (areas ??= faceAreas(mesh));
    return computed((f) => data[f * 3 + k] / (Math.hypot(data[f * 3], data[f * 3 + 1], data[f * 3 + 2]) || 1));
  };
  const area = (): NameSource => {
    const data = (areas ??= faceAreas(mesh));
    return computed((f) => Math.hypot(data[f * 3], data[f * 3 + 1], data[f * 3 + 2]) / 2);
  };
  return { x: mean(0), y: mean(1), z: mean(2), nx: part(0), ny: part(1), nz: part(2), area };
}
