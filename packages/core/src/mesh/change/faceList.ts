/** Faces in the room that was counted for them. */
export class FaceList {
  readonly corners: Uint32Array;
  readonly faceStarts: Uint32Array | null;
  readonly sources: Uint32Array;
  private at = 0;
  private face = 0;

  constructor(
    faces: number,
    corners: number,
    readonly uniform: 0 | 3 | 4,
  ) {
    this.corners = new Uint32Array(corners);
    this.faceStarts = uniform ? null : new Uint32Array(faces + 1);
    this.sources = new Uint32Array(faces);
  }

  add(source: number, list: readonly number[]): void {
    this.corners.set(list, this.at);
    this.ended(source, list.length);
  }

  add3(source: number, a: number, b: number, c: number): void {
    this.corners[this.at] = a;
    this.corners[this.at + 1] = b;
    this.corners[this.at + 2] = c;
    this.ended(source, 3);
  }

  add4(source: number, a: number, b: number, c: number, d: number): void {
    this.corners[this.at + 3] = d;
    this.add3(source, a, b, c);
    this.at++;
    if (this.faceStarts) this.faceStarts[this.face] = this.at;
  }

  private ended(source: number, size: number): void {
    this.at += size;
    this.sources[this.face++] = source;
    if (this.faceStarts) this.faceStarts[this.face] = this.at;
  }
}

/** Cuts a triangle that is not divided itself, so that it has the middles of its divided sides as corners. */
export function green(own: readonly number[], mid: readonly number[], splits: readonly boolean[], face: (...list: number[]) => void): void {
  const count = splits.filter(Boolean).length;
  if (!count) return face(...own);
  if (count === 3) {
    own.forEach((v, i) => face(v, mid[i], mid[(i + 2) % 3]));
    return face(...mid);
  }
  // Turned so that the first side is divided and the last is not.
  const first = [0, 1, 2].find((i) => splits[i] && !splits[(i + 2) % 3])!;
  const [a, b, c] = [0, 1, 2].map((i) => own[(first + i) % 3]);
  const ab = mid[first];
  if (count === 1) {
    face(a, ab, c);
    return face(ab, b, c);
  }
  const bc = mid[(first + 1) % 3];
  face(ab, b, bc);
  face(a, ab, bc);
  face(a, bc, c);
}
