import type { MeshPicture } from '@filaxis/protocol';

/** Where normals are shown: nowhere, at vertices, or in the middle of faces. */
export type Pins = 'none' | 'vertices' | 'faces';

/** Most pins that are drawn; beyond, every n-th is. */
const mostPins = 40_000;

/** Normals as pins of a length, metres, 6 numbers a pin; null: none are asked for, or there are none. Faces are triangles here, and theirs are by their winding. */
export function normalPins({ positions, normals, indices }: MeshPicture, pins: Pins, length: number): Float32Array | null {
  if (pins === 'none') return null;
  if (pins === 'vertices') return normals && thinned(positions.length / 3, (i, place, normal) => copy(positions, normals, i, place, normal), length);
  const corner = (i: number, k: number): number => positions[indices[i] * 3 + k];
  return thinned(
    indices.length / 3,
    (f, place, normal) => {
      const a = [0, 0, 0];
      const b = [0, 0, 0];
      for (let k = 0; k < 3; k++) {
        place[k] = (corner(f * 3, k) + corner(f * 3 + 1, k) + corner(f * 3 + 2, k)) / 3;
        a[k] = corner(f * 3 + 1, k) - corner(f * 3, k);
        b[k] = corner(f * 3 + 2, k) - corner(f * 3, k);
      }
      normal[0] = a[1] * b[2] - a[2] * b[1];
      normal[1] = a[2] * b[0] - a[0] * b[2];
      normal[2] = a[0] * b[1] - a[1] * b[0];
    },
    length,
  );
}

function copy(positions: Float32Array, normals: Float32Array, i: number, place: number[], normal: number[]): void {
  for (let k = 0; k < 3; k++) {
    place[k] = positions[i * 3 + k];
    normal[k] = normals[i * 3 + k];
  }
}

function thinned(count: number, at: (i: number, place: number[], normal: number[]) => void, length: number): Float32Array {
  const every = Math.max(1, Math.ceil(count / mostPins));
  const ends = new Float32Array(Math.ceil(count / every) * 6);
  const [place, normal] = [[0, 0, 0], [0, 0, 0]]; // prettier-ignore
  for (let i = 0, at6 = 0; i < count; i += every, at6 += 6) {
    at(i, place, normal);
    const size = Math.hypot(normal[0], normal[1], normal[2]) || 1;
    for (let k = 0; k < 3; k++) {
      ends[at6 + k] = place[k];
      ends[at6 + 3 + k] = place[k] + (normal[k] / size) * length;
    }
  }
  return ends;
}
