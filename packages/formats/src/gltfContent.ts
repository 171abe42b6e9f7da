import { Primitive, PropertyType, type Accessor, type Document, type Material as GltfMaterial } from '@gltf-transform/core';
import type { InstancedMesh } from '@gltf-transform/extensions';
import {
  hexColour,
  joinCopies,
  joinCurves,
  joinMeshes,
  joinPoints,
  makeCopies,
  makeCurves,
  makeMesh,
  makePoints,
  samePlaces,
  transformGeometry,
  type Affine,
  type Attribute,
  type Copies,
  type Curves,
  type GeometrySet,
  type Material,
  type Mesh,
  type Points,
} from '@filaxis/core';
import { FormatError } from './errors.js';

const { Mode } = Primitive;

/**
 * Meshes with their materials, curves and points of a document, placed by its nodes; instances become copies. Nodes that mirror turn their faces
 * over, so that they keep pointing outwards.
 */
export function contentOf(document: Document): GeometrySet {
  const meshes: Mesh[] = [];
  const curves: Curves[] = [];
  const points: Points[] = [];
  const copies: Copies[] = [];
  const materials = new Map<GltfMaterial, Material>();
  for (const node of document.getRoot().listNodes()) {
    const m = node.getWorldMatrix();
    const place: Affine = [m[0], m[4], m[8], m[12], m[1], m[5], m[9], m[13], m[2], m[6], m[10], m[14]];
    const batch = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing');
    const own: Mesh[] = [];
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      if (primitive.propertyType !== PropertyType.PRIMITIVE) continue;
      const mode = primitive.getMode();
      if (mode === Mode.POINTS) points.push(transformGeometry(makePoints(placesOf(primitive)), place));
      else if (mode === Mode.LINES || mode === Mode.LINE_STRIP || mode === Mode.LINE_LOOP) curves.push(transformGeometry(lines(primitive), place));
      else own.push(triangleMesh(primitive, materials));
    }
    if (batch && own.length) copies.push(transformGeometry(instances(batch, joinMeshes(own)), place));
    else meshes.push(...own.map((mesh) => transformGeometry(mesh, place)));
  }
  return {
    ...(meshes.length && { mesh: joinMeshes(meshes) }),
    ...(curves.length && { curves: joinCurves(curves) }),
    ...(points.length && { points: joinPoints(points) }),
    ...(copies.length && { copies: joinCopies(copies) }),
  };
}

function instances(batch: InstancedMesh, object: Mesh): Copies {
  const [place, turn, size] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((name) => batch.getAttribute(name) as Accessor | null);
  const count = Math.max(...[place, turn, size].map((accessor) => accessor?.getCount() ?? 0));
  const matrices = new Float32Array(count * 16);
  for (let i = 0; i < count; i++) {
    const t = place?.getElement<number[]>(i, []) ?? [0, 0, 0];
    const q = turn?.getElement<number[]>(i, []) ?? [0, 0, 0, 1];
    const s = size?.getElement<number[]>(i, []) ?? [1, 1, 1];
    const [x, y, z, w] = q;
    const r = [
      1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w),
      2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w),
      2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y),
    ]; // prettier-ignore
    for (let column = 0; column < 3; column++) for (let row = 0; row < 3; row++) matrices[i * 16 + column * 4 + row] = r[column * 3 + row] * s[column];
    matrices.set([...t, 1], i * 16 + 12);
  }
  return makeCopies([object], new Uint32Array(count), matrices);
}

/** The values of an accessor, `size` numbers each; integers that stand for 0…1 as such. */
function valuesOf(accessor: Accessor, size: number): Float32Array {
  const result = new Float32Array(accessor.getCount() * size);
  const element: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) {
    accessor.getElement(i, element);
    for (let k = 0; k < size; k++) result[i * size + k] = element[k];
  }
  return result;
}

function placesOf(primitive: Primitive): Float32Array {
  const accessor = primitive.getAttribute('POSITION');
  if (!accessor) throw new FormatError('A primitive has no positions.');
  return valuesOf(accessor, 3);
}

/** The vertices of a primitive in the order in which it uses them. @throws FormatError naming one that is not there. */
function orderOf(primitive: Primitive, vertices: number): Uint32Array {
  const given = primitive.getIndices()?.getArray();
  const order = given ? Uint32Array.from(given) : Uint32Array.from({ length: vertices }, (_, i) => i);
  const beyond = order.findIndex((vertex) => vertex >= vertices);
  if (beyond >= 0) throw new FormatError(`Index ${beyond} of a primitive names vertex ${order[beyond]}; there are ${vertices}.`);
  return order;
}

/** Corners of triangles from a list, a strip or a fan of them. */
function triangleCorners(order: Uint32Array, mode: number): Uint32Array {
  if (mode === Mode.TRIANGLES) {
    if (order.length % 3) throw new FormatError(`A primitive has ${order.length} triangle indices, which is no multiple of 3.`);
    return order;
  }
  const corners: number[] = [];
  for (let i = 0; i + 2 < order.length; i++) {
    if (mode === Mode.TRIANGLE_FAN) corners.push(order[0], order[i + 1], order[i + 2]);
    else corners.push(order[i], order[i + 1 + (i % 2)], order[i + 2 - (i % 2)]);
  }
  return Uint32Array.from(corners);
}

function triangleMesh(primitive: Primitive, known: Map<GltfMaterial, Material>): Mesh {
  const positions = placesOf(primitive);
  const corners = triangleCorners(orderOf(primitive, positions.length / 3), primitive.getMode());
  const attributes = new Map<string, Attribute>();
  for (let set = 0; primitive.getAttribute(`TEXCOORD_${set}`); set++) {
    const data = valuesOf(primitive.getAttribute(`TEXCOORD_${set}`)!, 2);
    // Top-left origin there, bottom-left here.
    for (let i = 1; i < data.length; i += 2) data[i] = 1 - data[i];
    attributes.set(set ? `uv${set + 1}` : 'uv', { carrier: 'corner', size: 2, data });
  }
  const normal = primitive.getAttribute('NORMAL');
  if (normal) attributes.set('normal', { carrier: 'corner', size: 3, data: valuesOf(normal, 3) });
  // Vertices are split at seams there; at one place they are one point again.
  const { pointOf, count: pointCount } = samePlaces(positions);
  const whole = { positions, corners, uniform: 3, pointOf, pointCount, attributes } as const;
  const material = primitive.getMaterial();
  if (!material) return makeMesh(whole);
  attributes.set('material', { carrier: 'face', size: 1, data: new Float32Array(corners.length / 3) });
  if (!known.has(material)) known.set(material, materialFrom(material));
  return makeMesh({ ...whole, materials: [known.get(material)!] });
}

/** Factors only: what pictures give a material is left out. */
function materialFrom(material: GltfMaterial): Material {
  const [r, g, b, opacity] = material.getBaseColorFactor();
  return {
    name: material.getName() || 'material',
    colour: hexColour([r, g, b]),
    roughness: material.getRoughnessFactor(),
    metalness: material.getMetallicFactor(),
    opacity: material.getAlphaMode() === 'BLEND' ? opacity : 1,
    checker: false,
  };
}

/** One curve from a strip or loop, or one of two points from each pair. */
function lines(primitive: Primitive): Curves {
  const places = placesOf(primitive);
  const mode = primitive.getMode();
  const all = orderOf(primitive, places.length / 3);
  const order = mode === Mode.LINES ? all.subarray(0, all.length - (all.length % 2)) : all;
  const positions = new Float32Array(order.length * 3);
  order.forEach((vertex, i) => positions.set(places.subarray(vertex * 3, vertex * 3 + 3), i * 3));
  if (mode === Mode.LINES) return makeCurves({ positions, starts: Uint32Array.from({ length: order.length / 2 + 1 }, (_, i) => i * 2) });
  return makeCurves({ positions, starts: Uint32Array.of(0, order.length), closed: Uint8Array.of(mode === Mode.LINE_LOOP ? 1 : 0) });
}
