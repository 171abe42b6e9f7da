import type { SamePlaces } from './samePlaces.js';
import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';

/** Which faces hang together by their points, directly or through others. */
export interface ConnectedParts {
  /** The part of each face, numbered in the order of their first faces. */
  readonly ofFace: Uint32Array;
  readonly count: number;
}

/** @param places the point of each vertex, where others than the mesh's own are to count. */
export function connectedParts(mesh: Mesh, places: SamePlaces | null = null): ConnectedParts {
  const { corners } = mesh;
  const { pointOf, count: points } = places ?? { pointOf: mesh.pointOf, count: mesh.pointCount };
  const parent = Uint32Array.from({ length: points }, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  };
  const point = (i: number): number => (pointOf ? pointOf[corners[i]] : corners[i]);
  const faces = faceCount(mesh);
  for (let f = 0; f < faces; f++) {
    const from = faceStart(mesh, f);
    for (let i = from + 1, to = faceStart(mesh, f + 1); i < to; i++) {
      const [a, b] = [root(point(from)), root(point(i))];
      if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
    }
  }
  const number = new Int32Array(points).fill(-1);
  const ofFace = new Uint32Array(faces);
  let count = 0;
  for (let f = 0; f < faces; f++) {
    const r = root(point(faceStart(mesh, f)));
    if (number[r] < 0) number[r] = count++;
    ofFace[f] = number[r];
  }
  return { ofFace, count };
}
