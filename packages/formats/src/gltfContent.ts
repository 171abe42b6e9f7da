import { Primitive, PropertyType, type Document, type Material as GltfMaterial, type Node } from '@gltf-transform/core';
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
  type Attributes,
  type Copies,
  type Curves,
  type GeometrySet,
  type Material,
  type Mesh,
  type Points,
} from '@filaxis/core';
import { FormatError } from './errors.js';
import { farOrigin, originAttribute } from './far.js';
import { posed, valuesOf, type Posed } from './gltfPose.js';

const { Mode } = Primitive;

/**
 * Meshes with their materials, curves and points of the scene that a document shows, placed by its nodes and in their pose; instances become copies. Nodes that mirror turn their faces
 * over, so that they keep pointing outwards.
 */
export function contentOf(document: Document): GeometrySet {
  const meshes: Mesh[] = [];
  const curves: Curves[] = [];
  const points: Points[] = [];
  const copies: Copies[] = [];
  const materials = new Map<GltfMaterial, Material>();
  const nodes = nodesOf(document);
  const origin = originOfNodes(nodes);
  for (const node of nodes) {
    const m = node.getWorldMatrix();
    if (origin && !node.getSkin()) for (let k = 0; k < 3; k++) m[12 + k] -= origin[k];
    const skin = node.getSkin();
    // A skinned mesh stands where its joints are; its own node moves it nowhere (glTF 2.0, 3.7.3.3).
    const place: Affine = skin ? affine([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]) : affine(m);
    const batch = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing');
    const own: Mesh[] = [];
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      if (primitive.propertyType !== PropertyType.PRIMITIVE) continue;
      const mode = primitive.getMode();
      const vertices = posed(primitive, node);
      if (mode === Mode.POINTS) points.push(transformGeometry(makePoints(vertices.positions, pointValues(primitive)), place));
      else if (mode === Mode.LINES || mode === Mode.LINE_STRIP || mode === Mode.LINE_LOOP)
        curves.push(transformGeometry(lines(primitive, vertices.positions), place));
      else own.push(triangleMesh(primitive, vertices, materials));
    }
    if (batch && own.length) copies.push(transformGeometry(instances(batch, joinMeshes(own)), place));
    else meshes.push(...own.map((mesh) => transformGeometry(mesh, place)));
  }
  const counted = <T extends { readonly attributes: Attributes }>(part: T): T =>
    origin ? { ...part, attributes: new Map([...part.attributes, ...originAttribute(origin)]) } : part;
  return {
    ...(meshes.length && { mesh: counted(joinMeshes(meshes)) }),
    ...(curves.length && { curves: counted(joinCurves(curves)) }),
    ...(points.length && { points: counted(joinPoints(points)) }),
    ...(copies.length && { copies: counted(joinCopies(copies)) }),
  };
}

/** From where to count places, so that 32 bits hold them where nodes stand far away: their translations have 64. */
function originOfNodes(nodes: readonly Node[]): [number, number, number] | null {
  const corners: number[] = [];
  for (const node of nodes) {
    if (node.getSkin()) continue;
    const m = node.getWorldMatrix();
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const position = primitive.getAttribute('POSITION');
      if (!position?.getCount()) continue;
      const [low, high] = [position.getMinNormalized([]), position.getMaxNormalized([])];
      for (let corner = 0; corner < 8; corner++) {
        const p = [0, 1, 2].map((k) => ((corner >> k) & 1 ? high : low)[k]);
        for (let k = 0; k < 3; k++) corners.push(m[k] * p[0] + m[4 + k] * p[1] + m[8 + k] * p[2] + m[12 + k]);
      }
    }
  }
  return farOrigin(corners);
}

const affine = (m: readonly number[]): Affine => [m[0], m[4], m[8], m[12], m[1], m[5], m[9], m[13], m[2], m[6], m[10], m[14]];

/** The nodes of the scene that is shown: the default one, else the first; all there are where there is no scene. */
function nodesOf(document: Document): readonly Node[] {
  const root = document.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  if (!scene) return root.listNodes();
  const nodes: Node[] = [];
  scene.traverse((node) => nodes.push(node));
  return nodes;
}

function instances(batch: InstancedMesh, object: Mesh): Copies {
  const [place, turn, size] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((name) => batch.getAttribute(name));
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

function triangleMesh(primitive: Primitive, { positions, normals }: Posed, known: Map<GltfMaterial, Material>): Mesh {
  const corners = triangleCorners(orderOf(primitive, positions.length / 3), primitive.getMode());
  const attributes = new Map<string, Attribute>();
  for (let set = 0; primitive.getAttribute(`TEXCOORD_${set}`); set++) {
    const data = valuesOf(primitive.getAttribute(`TEXCOORD_${set}`)!, 2);
    // Top-left origin there, bottom-left here.
    for (let i = 1; i < data.length; i += 2) data[i] = 1 - data[i];
    attributes.set(set ? `uv${set + 1}` : 'uv', { carrier: 'corner', size: 2, data });
  }
  if (normals) attributes.set('normal', { carrier: 'corner', size: 3, data: normals });
  for (const [name, value] of valuesByName(primitive)) if (!attributes.has(name)) attributes.set(name, { carrier: 'corner', ...value });
  const colour = primitive.getAttribute('COLOR_0');
  if (colour) attributes.set('colour', { carrier: 'corner', size: colour.getElementSize(), data: valuesOf(colour, colour.getElementSize()) });
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
    ...(material.getDoubleSided() && { doubleSided: true }),
  };
}

/** One curve from a strip or loop; from a list of lines one for each run of lines in which each begins where the one before ended. */
function lines(primitive: Primitive, places: Float32Array): Curves {
  const mode = primitive.getMode();
  const all = orderOf(primitive, places.length / 3);
  const runs: { points: number[]; closed: boolean }[] = [];
  if (mode !== Mode.LINES) runs.push({ points: Array.from(all), closed: mode === Mode.LINE_LOOP });
  else
    for (let i = 0; i + 1 < all.length; i += 2) {
      const last = runs[runs.length - 1];
      if (!last || last.closed || last.points[last.points.length - 1] !== all[i]) runs.push({ points: [all[i], all[i + 1]], closed: false });
      else if (last.points.length > 2 && all[i + 1] === last.points[0]) last.closed = true;
      else last.points.push(all[i + 1]);
    }
  const starts = new Uint32Array(runs.length + 1);
  runs.forEach(({ points }, c) => (starts[c + 1] = starts[c] + points.length));
  const order = runs.flatMap(({ points }) => points);
  const rows = (data: Float32Array, size: number): Float32Array =>
    Float32Array.from({ length: order.length * size }, (_, i) => data[order[Math.floor(i / size)] * size + (i % size)]);
  const attributes = new Map(valuesByName(primitive).map(([name, { size, data }]) => [name, { carrier: 'point' as const, size, data: rows(data, size) }]));
  return makeCurves({ positions: rows(places, 3), starts, closed: Uint8Array.from(runs, ({ closed }) => (closed ? 1 : 0)), attributes });
}

const pointValues = (primitive: Primitive): Map<string, Attribute> =>
  new Map(valuesByName(primitive).map(([name, value]) => [name, { carrier: 'point', ...value }]));

/** Attributes of the file's own names (an underline and capitals), by ours. */
function valuesByName(primitive: Primitive): [string, { size: number; data: Float32Array }][] {
  const names = (primitive.getExtras()['names'] ?? {}) as Readonly<Record<string, string>>;
  return primitive
    .listSemantics()
    .filter((semantic) => /^_[A-Z]/.test(semantic))
    .map((semantic) => {
      const accessor = primitive.getAttribute(semantic)!;
      const given: unknown = names[semantic];
      const name = typeof given === 'string' && /^[a-z][A-Za-z0-9_]*$/.test(given) ? given : semantic.slice(1).toLowerCase();
      return [name, { size: accessor.getElementSize(), data: valuesOf(accessor, accessor.getElementSize()) }];
    });
}
