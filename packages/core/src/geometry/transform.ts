import { cosineAndSine } from '../base/turns.js';
import { directionAttributes, placeAttributes, type Attribute, type Attributes } from './attributes.js';
import type { Geometry } from './geometry.js';
import { faceCount, faceStart, type Mesh } from './mesh.js';

/** 3 × 4 affine map, row-major: p′ = A·p + b. */
export type Affine = readonly [number, number, number, number, number, number, number, number, number, number, number, number];

export interface TransformOptions {
  /** Metres, after turning and sizing. */
  move: readonly number[];
  /** Degrees about X, then Y, then Z (fixed axes). */
  turn: readonly number[];
  /** Factor along X, Y, Z. */
  size: readonly number[];
  /** Metres; the point that turning and sizing leave where it is. */
  pivot: readonly number[];
}

/** p′ = Rz·Ry·Rx·S·(p − pivot) + pivot + move. */
export function affineFrom({ move, turn, size, pivot }: TransformOptions): Affine {
  const [[cx, sx], [cy, sy], [cz, sz]] = turn.map(cosineAndSine);
  const rotation = [cz * cy, cz * sy * sx - sz * cx, cz * sy * cx + sz * sx, sz * cy, sz * sy * sx + cz * cx, sz * sy * cx - cz * sx, -sy, cy * sx, cy * cx];
  const m: number[] = [];
  for (let row = 0; row < 3; row++) {
    const a = rotation.slice(row * 3, row * 3 + 3).map((value, k) => value * size[k]);
    m.push(...a, move[row] + pivot[row] - (a[0] * pivot[0] + a[1] * pivot[1] + a[2] * pivot[2]));
  }
  return m as unknown as Affine;
}

function transformPlaces(positions: Float32Array, m: Affine): Float32Array {
  const result = new Float32Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const x = positions[i];
    const y = positions[i + 1];
    const z = positions[i + 2];
    result[i] = m[0] * x + m[1] * y + m[2] * z + m[3];
    result[i + 1] = m[4] * x + m[5] * y + m[6] * z + m[7];
    result[i + 2] = m[8] * x + m[9] * y + m[10] * z + m[11];
  }
  return result;
}

const determinant = (m: Affine): number => m[0] * (m[5] * m[10] - m[6] * m[9]) - m[1] * (m[4] * m[10] - m[6] * m[8]) + m[2] * (m[4] * m[9] - m[5] * m[8]);

/** The map for surface normals: the cofactor matrix of A (equals det·A⁻ᵀ), which also serves singular A. */
function normalMap(m: Affine): Affine {
  return [
    m[5] * m[10] - m[6] * m[9], m[6] * m[8] - m[4] * m[10], m[4] * m[9] - m[5] * m[8], 0,
    m[2] * m[9] - m[1] * m[10], m[0] * m[10] - m[2] * m[8], m[1] * m[8] - m[0] * m[9], 0,
    m[1] * m[6] - m[2] * m[5], m[2] * m[4] - m[0] * m[6], m[0] * m[5] - m[1] * m[4], 0,
  ]; // prettier-ignore
}

function normalise(data: Float32Array): Float32Array {
  for (let i = 0; i < data.length; i += 3) {
    const length = Math.hypot(data[i], data[i + 1], data[i + 2]);
    if (length > 0) for (let k = 0; k < 3; k++) data[i + k] /= length;
  }
  return data;
}

/** Keeps `normal` perpendicular to `tangent` after an uneven size: its part along the tangent is taken out. */
function straightenFrames(tangent: Float32Array, normal: Float32Array): void {
  for (let i = 0; i < normal.length; i += 3) {
    const along = normal[i] * tangent[i] + normal[i + 1] * tangent[i + 1] + normal[i + 2] * tangent[i + 2];
    for (let k = 0; k < 3; k++) normal[i + k] -= along * tangent[i + k];
  }
  normalise(normal);
}

const isOrigin = (name: string, { carrier, size }: Attribute): boolean => name === 'origin' && carrier === 'whole' && size === 3;

/** Where places are counted from turns and is sized with them: what is moved is the places. */
function turnedOrigin(origin: Attribute, m: Affine): Attribute {
  const [x, y, z] = origin.data;
  return { ...origin, data: Float32Array.from([0, 4, 8], (row) => m[row] * x + m[row + 1] * y + m[row + 2] * z) };
}

function transformAttributes(attributes: Attributes, m: Affine): Attributes {
  const linear: Affine = [m[0], m[1], m[2], 0, m[4], m[5], m[6], 0, m[8], m[9], m[10], 0];
  const result = new Map<string, Attribute>();
  for (const [name, attribute] of attributes) {
    if (isOrigin(name, attribute)) {
      result.set(name, turnedOrigin(attribute, m));
      continue;
    }
    if (attribute.size === 3 && placeAttributes.has(name)) {
      result.set(name, { ...attribute, data: transformPlaces(attribute.data, m) });
      continue;
    }
    if (attribute.size !== 3 || !directionAttributes.has(name)) {
      result.set(name, attribute);
      continue;
    }
    const surface = name === 'normal' && attribute.carrier !== 'point';
    const data = transformPlaces(attribute.data, surface ? normalMap(m) : linear);
    if (surface && determinant(m) < 0) for (let i = 0; i < data.length; i++) data[i] = -data[i];
    result.set(name, { ...attribute, data: name.startsWith('handle') ? data : normalise(data) });
  }
  const tangent = result.get('tangent');
  const normal = result.get('normal');
  if (tangent?.carrier === 'point' && normal?.carrier === 'point') straightenFrames(tangent.data, normal.data);
  return result;
}

/** The corners with every face turned over, its first corner kept. */
function flippedCorners(mesh: Mesh): Uint32Array {
  const corners = new Uint32Array(mesh.corners.length);
  for (let f = 0; f < faceCount(mesh); f++) {
    const from = faceStart(mesh, f);
    const to = faceStart(mesh, f + 1);
    corners[from] = mesh.corners[from];
    for (let i = from + 1; i < to; i++) corners[i] = mesh.corners[to - (i - from)];
  }
  return corners;
}

/** Moves any geometry by an affine map. Faces keep pointing outwards when the map mirrors; frames stay unit and perpendicular. */
export function transformGeometry<G extends Geometry>(geometry: G, m: Affine): G {
  if (geometry.type === 'copies') {
    const matrices = new Float32Array(geometry.matrices.length);
    for (let at = 0; at < matrices.length; at += 16)
      for (let column = 0; column < 4; column++)
        for (let row = 0; row < 4; row++) {
          const b = geometry.matrices.subarray(at + column * 4, at + column * 4 + 4);
          matrices[at + column * 4 + row] = row === 3 ? b[3] : m[row * 4] * b[0] + m[row * 4 + 1] * b[1] + m[row * 4 + 2] * b[2] + m[row * 4 + 3] * b[3];
        }
    const attributes = new Map([...geometry.attributes].map(([name, each]) => [name, isOrigin(name, each) ? turnedOrigin(each, m) : each]));
    return { ...geometry, matrices, attributes };
  }
  const positions = transformPlaces(geometry.positions, m);
  const attributes = transformAttributes(geometry.attributes, m);
  if (geometry.type === 'mesh' && determinant(m) < 0) return { ...geometry, positions, attributes, corners: flippedCorners(geometry) };
  return { ...geometry, positions, attributes };
}

/** The value that is a length wherever it is found: how thick curves and points are. */
const thickness = 'radius';

/** Geometry as a file with another up axis and unit has it: turned about x by degrees, every length `size` times as long, its thickness too. */
export function measuredAs<G extends Geometry>(geometry: G, turn: number, size: number): G {
  const moved = transformGeometry(geometry, affineFrom({ move: [0, 0, 0], turn: [turn, 0, 0], size: [size, size, size], pivot: [0, 0, 0] }));
  const own = moved.type === 'copies' ? undefined : moved.attributes.get(thickness);
  if (!own || size === 1) return moved;
  return { ...moved, attributes: new Map(moved.attributes).set(thickness, { ...own, data: own.data.map((value) => value * size) }) };
}
