import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import { tick, unbounded, type Work } from '../../base/work.js';

/** Lists up to this long are searched as they are; longer ones (the middle of a fan) are sorted. */
const short = 24;

/** Whether a mesh has a side that no other face has. */
export function hasBorder(mesh: Mesh, work: Work = unbounded): boolean {
  return beginsOpen(mesh, work) || hasSingleSide(mesh, work);
}

/** Whether a side of the first face is a border: skins begin at one. It is found without keeping anything of the others. */
function beginsOpen(mesh: Mesh, work: Work): boolean {
  const faces = faceCount(mesh);
  if (!faces) return false;
  const { corners, pointOf } = mesh;
  const first = Array.from(corners.subarray(0, faceStart(mesh, 1)), (corner) => (pointOf ? pointOf[corner] : corner));
  if (new Set(first).size !== first.length || first.length > 255) return false;
  // Of each point, and so of each vertex, which of the first face it is, counted from 1; 0: none.
  const ofPoint = new Uint8Array(pointOf ? mesh.pointCount : mesh.positions.length / 3);
  first.forEach((point, i) => (ofPoint[point] = i + 1));
  const place = pointOf ? new Uint8Array(pointOf.length) : ofPoint;
  if (pointOf) for (let v = 0; v < place.length; v++) place[v] = ofPoint[pointOf[v]];
  const met = first.map(() => 0);
  const { uniform, faceStarts } = mesh;
  let from = 0;
  for (let f = 0; f < faces; f++) {
    tick(work, f, faces);
    const to = faceStarts ? faceStarts[f + 1] : from + uniform;
    let a = place[corners[to - 1]];
    for (let j = from; j < to; j++) {
      const b = place[corners[j]];
      if (a > 0 && b > 0) {
        // Neighbours among them are a side, and so are the last and the first.
        const low = a < b ? a : b;
        const high = a < b ? b : a;
        if (high === low + 1) met[low - 1]++;
        else if (low === 1 && high === first.length) met[high - 1]++;
      }
      a = b;
    }
    from = to;
  }
  return met.includes(1);
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
