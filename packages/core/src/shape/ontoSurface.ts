import { newHit, NearestTree, nearestTreeOf } from '../near/nearest.js';
import type { Mesh } from '../geometry/mesh.js';
import type { Lines, Onto } from '../mesh/change/evenOut.js';
import type { Work } from '../base/work.js';
import { gatherRows, withAttributes, type Attribute } from '../geometry/attributes.js';
import { faceCount, faceStart } from '../geometry/mesh.js';
import { tick } from '../base/work.js';

/** Puts places onto a mesh, or onto its sharp edges. */
export function ontoMesh(mesh: Mesh, lines: Lines, work: Work): Onto {
  const tree = nearestTreeOf(mesh, work);
  const count = lines.length / 6;
  const element = Uint32Array.from({ length: count }, (_, i) => i);
  const edges = count ? new NearestTree({ corners: lines, size: 6, element, points: new Uint32Array(count * 2), perPiece: 2, of: mesh }, work) : tree;
  const hit = newHit();
  const put = (to: NearestTree, p: Float64Array, o: number): void => {
    to.nearest(p[o], p[o + 1], p[o + 2], hit);
    if (hit.piece >= 0) for (let k = 0; k < 3; k++) p[o + k] = hit.place[k];
  };
  return { surface: (p, o) => put(tree, p, o), line: (p, o) => put(edges, p, o) };
}

/** A mesh made anew over another with the materials, the values of the whole, and those of the faces that it lies on. */
export function withFaceValues(made: Mesh, from: Mesh, work: Work): Mesh {
  const own = [...from.attributes].filter(([, { carrier }]) => carrier === 'face');
  const whole = Object.fromEntries([...from.attributes].filter(([, { carrier }]) => carrier === 'whole'));
  if (!own.length) return { ...made, materials: from.materials, attributes: withAttributes(made.attributes, whole) };
  const tree = nearestTreeOf(from, work);
  const hit = newHit();
  const sources = new Uint32Array(faceCount(made));
  for (let f = 0; f < sources.length; f++) {
    tick(work, f, sources.length);
    const [a, b] = [faceStart(made, f), faceStart(made, f + 1)];
    const middle = [0, 0, 0];
    for (let i = a; i < b; i++) for (let k = 0; k < 3; k++) middle[k] += made.positions[made.corners[i] * 3 + k] / (b - a);
    sources[f] = tree.nearest(middle[0], middle[1], middle[2], hit).element;
  }
  const values: Record<string, Attribute> = { ...whole };
  for (const [name, attribute] of own) values[name] = { ...attribute, data: gatherRows(attribute, sources) };
  return { ...made, materials: from.materials, attributes: withAttributes(made.attributes, values) };
}
