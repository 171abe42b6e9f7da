import {
  curveCount,
  faceCount,
  faceStart,
  type Attributes,
  type Carrier,
  type Copies,
  type Curves,
  type GeometrySet,
  type Mesh,
  type Points,
} from '@filaxis/core';
import { FormatError } from './errors.js';

/** Elements of each carrier that a geometry has. */
type Counts = Partial<Record<Carrier, number>>;

/** @throws FormatError naming the first value that is not finite, or that is there too often or too seldom. */
function requireValues(attributes: Attributes, counts: Counts, where: string): void {
  for (const [name, { carrier, size, data }] of attributes) {
    const at = `${where}/attributes/${name}`;
    const count = counts[carrier];
    if (count === undefined) throw new FormatError(`${at}: values are of ${Object.keys(counts).join(', ')}; these are of ${JSON.stringify(carrier)}.`);
    if (!Number.isInteger(size) || size < 1 || size > 16) throw new FormatError(`${at}: a value has 1 to 16 numbers; these have ${size}.`);
    if (data.length !== count * size) throw new FormatError(`${at}: ${count} of ${size} numbers each are needed; there are ${data.length}.`);
    const bad = data.findIndex((value) => !Number.isFinite(value));
    if (bad >= 0) throw new FormatError(`${at}: value ${Math.floor(bad / size)} is ${data[bad]}; values must be finite numbers.`);
  }
}

function requireRising(starts: ArrayLike<number>, end: number, least: number, where: string, what: string): void {
  for (let i = 0; i + 1 < starts.length; i++)
    if (starts[i + 1] - starts[i] < least)
      throw new FormatError(`${where}: ${what} ${i} has ${starts[i + 1] - starts[i]} points; ${least} or more are needed.`);
  if (starts.length && (starts[0] !== 0 || starts[starts.length - 1] !== end))
    throw new FormatError(`${where}: it has to begin with 0 and to end with ${end}.`);
}

function requireMesh(mesh: Mesh, where: string): void {
  const faces = faceCount(mesh);
  if (mesh.faceStarts) requireRising(mesh.faceStarts, mesh.corners.length, 3, `${where}/faceStarts`, 'face');
  else if (faces && faceStart(mesh, faces) !== mesh.corners.length) throw new FormatError(`${where}: its corners are no whole number of faces.`);
  const beyond = mesh.pointOf?.findIndex((point) => point >= mesh.pointCount) ?? -1;
  if (beyond >= 0) throw new FormatError(`${where}: vertex ${beyond} is of point ${mesh.pointOf![beyond]}; there are ${mesh.pointCount}.`);
  requireValues(mesh.attributes, { corner: mesh.positions.length / 3, face: faces, whole: 1 }, where);
  const material = mesh.attributes.get('material')?.data.find((which) => which >= mesh.materials.length);
  if (material !== undefined) throw new FormatError(`${where}/attributes/material: ${material} is none of the ${mesh.materials.length} materials.`);
}

function requireCurves(curves: Curves): void {
  requireRising(curves.starts, curves.positions.length / 3, 0, '/curves/starts', 'curve');
  requireValues(curves.attributes, { point: curves.positions.length / 3, curve: curveCount(curves), whole: 1 }, '/curves');
}

const requirePoints = ({ positions, attributes }: Points): void => requireValues(attributes, { point: positions.length / 3, whole: 1 }, '/points');

function requireCopies({ objects, object, matrices, attributes }: Copies): void {
  objects.forEach((mesh, i) => requireMesh(mesh, `/copies/objects/${i}/mesh`));
  const bad = matrices.findIndex((value) => !Number.isFinite(value));
  if (bad >= 0) throw new FormatError(`/copies/matrices/${bad}: a number of copy ${Math.floor(bad / 16)} is ${matrices[bad]}; it must be finite.`);
  requireValues(attributes, { copy: object.length, whole: 1 }, '/copies');
}

/** What came out of a file, known to hang together: everything beside places is checked as these are. @throws FormatError naming what does not fit, and where. */
export function requireSound(set: GeometrySet): GeometrySet {
  if (set.curves) requireCurves(set.curves);
  if (set.points) requirePoints(set.points);
  if (set.mesh) requireMesh(set.mesh, '/mesh');
  if (set.copies) requireCopies(set.copies);
  return set;
}
