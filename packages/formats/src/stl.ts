import { makeMesh, samePlaces, triangulate, type GeometrySet, type Mesh } from '@filaxis/core';
import { FormatError } from './errors.js';
import type { Out } from './writeOptions.js';

/** Bytes of the heading, the count, and each triangle of a binary STL file. */
const [headBytes, triangleBytes] = [84, 50];

/** A result's mesh as binary STL (common practice): triangles with their normals, no UVs. @throws FormatError when there is no mesh. */
export function writeStl({ mesh }: GeometrySet, out: Out): void {
  if (!mesh) throw new FormatError('There is nothing to write: STL holds faces, and the result has none.', 'format');
  const { indices } = triangulate(mesh);
  const p = mesh.positions;
  const count = indices.length / 3;
  const head = new Uint8Array(headBytes);
  // A heading that begins with "solid" would pass for text.
  head.set(new TextEncoder().encode('Filaxis binary STL, metres, Y up'));
  new DataView(head.buffer).setUint32(80, count, true);
  out(head);
  for (let from = 0; from < count; from += trianglesAtOnce) out(triangleRows(p, indices.subarray(from * 3, (from + trianglesAtOnce) * 3)));
}

/** Triangles that are written in one piece. */
const trianglesAtOnce = 1 << 16;

function triangleRows(p: Float32Array, indices: Uint32Array): Uint8Array {
  const bytes = new Uint8Array((indices.length / 3) * triangleBytes);
  const view = new DataView(bytes.buffer);
  for (let i = 0, at = 0; i < indices.length; i += 3, at += triangleBytes) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const size = Math.hypot(nx, ny, nz) || 1;
    view.setFloat32(at, nx / size, true);
    view.setFloat32(at + 4, ny / size, true);
    view.setFloat32(at + 8, nz / size, true);
    for (let which = 0; which < 3; which++) {
      const corner = indices[i + which] * 3;
      for (let k = 0; k < 3; k++) view.setFloat32(at + 12 + which * 12 + k * 4, p[corner + k], true);
    }
  }
  return bytes;
}

/** Joins corners at the very same place, since STL repeats every corner. */
function meshOf(repeated: Float32Array): Mesh {
  const { pointOf: corners, count } = samePlaces(repeated);
  const positions = new Float32Array(count * 3);
  corners.forEach((point, i) => positions.set(repeated.subarray(i * 3, i * 3 + 3), point * 3));
  return makeMesh({ positions, corners, uniform: 3 });
}

/** Bytes that may stand behind the triangles of a binary file: some programs fill up, or add words of their own. */
const mostTrailing = 4096;

/** Triangles of a binary file, by the count in its heading and the bytes that there are; −1: it is none. */
function binaryCount(bytes: Uint8Array): number {
  if (bytes.length < headBytes) return -1;
  const count = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(80, true);
  const left = bytes.length - headBytes - count * triangleBytes;
  return left === 0 || (left > 0 && left <= mostTrailing && count > 0 && !isText(bytes)) ? count : -1;
}

/** Whether a file begins with a solid and goes on with its facets, in small letters or capitals, however long the name is. */
function isText(bytes: Uint8Array): boolean {
  const words = new TextDecoder('latin1').decode(bytes.subarray(0, 65536)).toLowerCase().trimStart();
  if (!words.startsWith('solid')) return false;
  const end = [words.indexOf('\n'), words.indexOf('\r')].filter((at) => at >= 0);
  const next = words.slice(end.length ? Math.min(...end) : words.length, 65536).trimStart();
  return next.startsWith('facet') || next.startsWith('endsolid');
}

/** Whether a file is STL: as long as binary files with its count are (up to some bytes behind), or text that begins with a solid and its facets. */
export const isStl = (bytes: Uint8Array): boolean => binaryCount(bytes) >= 0 || isText(bytes);

/**
 * A mesh from STL, binary or text.
 * @throws FormatError with the byte or line of what cannot be read.
 */
export function readStl(bytes: Uint8Array): GeometrySet {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = binaryCount(bytes);
  if (count >= 0) {
    const corners = new Float32Array(count * 9);
    for (let t = 0; t < count; t++)
      for (let k = 0; k < 9; k++) {
        const at = headBytes + t * triangleBytes + 12 + k * 4;
        corners[t * 9 + k] = view.getFloat32(at, true);
        if (!Number.isFinite(corners[t * 9 + k])) throw new FormatError(`Byte ${at}: a corner is not a finite number.`);
      }
    return count ? { mesh: meshOf(corners) } : {};
  }
  const text = new TextDecoder('latin1').decode(bytes);
  if (!text.trimStart().toLowerCase().startsWith('solid')) {
    const said = bytes.length >= headBytes ? view.getUint32(80, true) : -1;
    throw new FormatError(
      said < 0
        ? `The file has ${bytes.length} bytes; binary STL has 84 or more.`
        : `Byte 80: the file says it has ${said} triangles, which are ${headBytes + said * triangleBytes} bytes; it has ${bytes.length}.`,
    );
  }
  const values: number[] = [];
  text.split(/\r\n|\r|\n/).forEach((line, at) => {
    const words = line.trim().split(/\s+/);
    if (words[0].toLowerCase() !== 'vertex') return;
    const place = words.slice(1, 4).map(Number);
    if (place.length < 3 || !place.every(Number.isFinite)) throw new FormatError(`Line ${at + 1}: "${line.trim().slice(0, 60)}" needs three finite numbers.`);
    values.push(...place);
  });
  if (values.length % 9) throw new FormatError(`The text has ${values.length / 3} corners, which is no multiple of 3.`);
  return values.length ? { mesh: meshOf(Float32Array.from(values)) } : {};
}
