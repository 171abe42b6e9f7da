import type { Buffer, Document, Material as GltfMaterial, Primitive } from '@gltf-transform/core';
import { hasBorder, linearColour, plainMaterial, triangulate, type Material, type Mesh } from '@filaxis/core';
import { cornerTangents } from './gltfTangents.js';
import { accessorOf, addValues, gathered, ownValues, usedVertices } from './gltfValues.js';
import { trianglesByMaterial } from './meshPieces.js';
import { backsAreSeen } from './openSurface.js';

/** Puts meshes into one document, with the materials that they share. */
export class MeshesOf {
  private readonly materials = new Map<string, GltfMaterial>();

  constructor(
    private readonly document: Document,
    private readonly buffer: Buffer,
    private readonly tangents: boolean,
  ) {}

  /** One primitive a material, each with the vertices that it uses; `rows` gives values of the mesh's vertices (of so many numbers each) in the order of the primitive's. */
  add(mesh: Mesh, into: (primitive: Primitive, rows: (data: Float32Array, size: number) => Float32Array) => void): void {
    const open = hasBorder(mesh);
    const values = ownValues(mesh.attributes, ['point', 'corner', 'face']);
    // Sets are numbered without gaps: the first is `uv`, then whatever others there are.
    const sets = [...mesh.attributes].filter(([name, { size }]) => /^uv[2-9]?$/.test(name) && size === 2).sort(([a], [b]) => (a < b ? -1 : 1));
    const normal = mesh.attributes.get('normal');
    const colour = mesh.attributes.get('colour');
    const coloured = colour && (colour.size === 3 || colour.size === 4) && (colour.carrier === 'corner' || colour.carrier === 'face') ? colour : undefined;
    const byFace = values.filter(([, { carrier }]) => carrier === 'face');
    if (coloured?.carrier === 'face') byFace.push(['colour', coloured]);
    const { faceOf } = byFace.length ? triangulate(mesh) : { faceOf: null };
    for (const [material, indices, triangles] of trianglesByMaterial(mesh)) {
      const tangents = this.tangents ? cornerTangents(mesh, indices) : null;
      const { order, source, face, tangent } = usedVertices(mesh, indices, triangles, faceOf, byFace, tangents);
      const rows = (data: Float32Array, size: number): Float32Array => {
        const out = new Float32Array(source.length * size);
        for (let v = 0; v < source.length; v++) for (let k = 0; k < size; k++) out[v * size + k] = data[source[v] * size + k];
        return out;
      };
      const put = (name: string, data: Float32Array, size: number): void =>
        void primitive.setAttribute(name, accessorOf(this.document, this.buffer, data, size));
      const fitting = source.length <= 65535 ? Uint16Array.from(order) : order;
      const primitive = this.document
        .createPrimitive()
        .setIndices(this.document.createAccessor().setType('SCALAR').setArray(fitting).setBuffer(this.buffer))
        .setMaterial(this.materialFor(mesh.materials[material], open));
      put('POSITION', rows(mesh.positions, 3), 3);
      if (normal) put('NORMAL', rows(normal.data, 3), 3);
      if (tangent) put('TANGENT', tangent, 4);
      sets.forEach(([, { data }], n) => {
        const turned = rows(data, 2);
        for (let i = 1; i < turned.length; i += 2) turned[i] = 1 - turned[i];
        put(`TEXCOORD_${n}`, turned, 2);
      });
      const valueOf = ({ carrier, size, data }: (typeof values)[number][1]): Float32Array =>
        carrier === 'face' ? gathered(data, size, face!) : rows(data, size);
      if (coloured) put('COLOR_0', valueOf(coloured), coloured.size);
      addValues(this.document, this.buffer, primitive, values.map(([name, value]) => [name, { carrier: value.carrier, size: value.size, data: valueOf(value) }])); // prettier-ignore
      into(primitive, rows);
    }
  }

  private materialFor(material: Material | undefined, open: boolean): GltfMaterial | null {
    const both = backsAreSeen(material, open);
    // Without a material readers leave out the backs, which an open surface shows.
    const used = material ?? (open ? plainMaterial : null);
    if (!used) return null;
    const key = JSON.stringify([used, both]);
    let made = this.materials.get(key);
    if (!made) this.materials.set(key, (made = this.createMaterial(used).setDoubleSided(both)));
    return made;
  }

  private createMaterial({ name, colour, opacity, roughness, metalness }: Material): GltfMaterial {
    return this.document
      .createMaterial(name)
      .setBaseColorFactor([...linearColour(colour), opacity])
      .setRoughnessFactor(roughness)
      .setMetallicFactor(metalness)
      .setAlphaMode(opacity < 1 ? 'BLEND' : 'OPAQUE');
  }
}
