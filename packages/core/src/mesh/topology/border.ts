import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import { tick, unbounded, type Work } from '../../base/work.js';

/** Lists up to this long are searched as they are; longer ones (the middle of a fan) are sorted. */
const short = 24;

/** Up to so many vertices at a point are looked for one by one. */
const fewAtPoint = 8;

/** Whether a mesh has a side that no other face has. */
export function hasBorder(mesh: Mesh, work: Work = unbounded): boolean {
  return beginsOpen(mesh) || hasSingleSide(mesh, work);
}

/** Whether a side of the first face is a border: skins begin at one. Nothing is kept of the others, and only those are looked at that have a point of it. */
function beginsOpen(mesh: Mesh): boolean {
  if (!faceCount(mesh)) return false;
  const { corners, pointOf } = mesh;
  const first = Array.from(corners.subarray(0, faceStart(mesh, 1)), (corner) => (pointOf ? pointOf[corner] : corner));
  if (new Set(first).size !== first.length) return false;
  // Each side has one of every second point at an end.
  for (let i = 0; i < first.length; i += 2) {
    const beside = [first.at(i - 1), first[(i + 1) % first.length]];
    const met = neighboursOf(mesh, first[i]);
    if (beside.some((point) => met?.filter((other) => other === point).length === 1)) return true;
  }
  return false;
}

/** The points before and after a point in each face that it is in; null where too many vertices stand at it to look for each. */
function neighboursOf(mesh: Mesh, point: number): number[] | null {
  const { corners, pointOf } = mesh;
  const met: number[] = [];
  let left = fewAtPoint;
  for (let vertex = pointOf ? pointOf.indexOf(point) : point; vertex >= 0; vertex = pointOf ? pointOf.indexOf(point, vertex + 1) : -1) {
    if (left-- === 0) return null;
    for (let corner = corners.indexOf(vertex); corner >= 0; corner = corners.indexOf(vertex, corner + 1)) {
      const face = faceAt(mesh, corner);
      const [from, to] = [faceStart(mesh, face), faceStart(mesh, face + 1)];
      for (const beside of [corner > from ? corner - 1 : to - 1, corner + 1 < to ? corner + 1 : from])
        met.push(pointOf ? pointOf[corners[beside]] : corners[beside]);
    }
  }
  return met;
}

/** The face that a corner is of. */
function faceAt({ uniform, faceStarts }: Mesh, corner: number): number {
  if (!faceStarts) return Math.floor(corner / uniform);
  let [low, high] = [0, faceStarts.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (faceStarts[middle] <= corner) low = middle;
    else high = middle;
  }
  return low;
}

/** The same of all sides: each is kept with the lower of its points, so that it is looked for among a few. */
function hasSingleSide(mesh: Mesh, work: Work): boolean {
  const { corners, pointOf } = mesh;
  const faces = faceCount(mesh);
  const points = pointOf ? mesh.pointCount : mesh.positions.length / 3;
  const starts = work.memory.uint32(points + 1).fill(0);
  const highs = work.memory.uint32(corners.length);
  // Counted, then laid down from the end of each point's list, so that its start is left at the start.
  for (const lays of [false, true]) {
    for (let f = 0; f < faces; f++) {
      tick(work, f, faces);
      const from = faceStart(mesh, f);
      const to = faceStart(mesh, f + 1);
      let p = pointOf ? pointOf[corners[to - 1]] : corners[to - 1];
      for (let j = from; j < to; j++) {
        const q = pointOf ? pointOf[corners[j]] : corners[j];
        const low = p < q ? p : q;
        if (lays) highs[--starts[low]] = p < q ? q : p;
        else starts[low]++;
        p = q;
      }
    }
    if (!lays) for (let p = 1; p <= points; p++) starts[p] += starts[p - 1];
  }
  for (let p = 0; p < points; p++) if (hasSingle(highs, starts[p], starts[p + 1])) return true;
  return false;
}

/** Whether a number is there once only. */
function hasSingle(list: Uint32Array, from: number, to: number): boolean {
  const sorted = to - from > short;
  if (sorted) list.subarray(from, to).sort();
  for (let i = from; i < to; i++) {
    if (sorted && !(list[i] === list[i - 1] && i > from) && !(list[i] === list[i + 1] && i + 1 < to)) return true;
    if (sorted) continue;
    let j = from;
    while (j < to && (j === i || list[j] !== list[i])) j++;
    if (j === to) return true;
  }
  return false;
}
