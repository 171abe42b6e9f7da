import { FormatError } from './errors.js';

/** A value as it is written; what is not there is missing. */
const said = (value: unknown): string => JSON.stringify(value) ?? 'missing';

/** Vertices that the nodes of a file may place in all, however often they place them: what a step of a graph may make too. */
const mostPlaced = 20_000_000;

interface GltfAccessor {
  readonly count?: unknown;
  readonly bufferView?: unknown;
  readonly byteOffset?: unknown;
  readonly componentType?: unknown;
  readonly type?: unknown;
  readonly sparse?: unknown;
}

interface GltfJson {
  readonly asset?: { readonly version?: unknown };
  readonly extensionsUsed?: unknown;
  readonly extensionsRequired?: unknown;
  readonly materials?: unknown;
  readonly buffers?: readonly { uri?: unknown; readonly byteLength?: unknown }[];
  readonly bufferViews?: readonly {
    readonly buffer?: unknown;
    readonly byteOffset?: unknown;
    readonly byteLength?: unknown;
    readonly byteStride?: unknown;
    readonly extensions?: Readonly<Record<string, unknown>>;
  }[];
  readonly accessors?: readonly GltfAccessor[];
  readonly meshes?: readonly {
    readonly primitives?: readonly { readonly attributes?: Readonly<Record<string, unknown>>; readonly indices?: unknown; readonly mode?: unknown }[];
  }[];
  readonly nodes?: readonly { readonly mesh?: unknown }[];
}

/** The JSON text of a glTF file, parsed. @throws FormatError when it is no JSON object. */
export function parseGltf(text: string, where: string): GltfJson {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw new FormatError(`${where}This is not JSON: ${(error as Error).message}.`);
  }
  if (typeof json !== 'object' || json === null || Array.isArray(json)) throw new FormatError(`${where}This is not glTF: it is no object.`);
  return json;
}

/**
 * Looks through a glTF file before anything is made of it, so that no small file can ask for much memory.
 * @param bytes size of the file.
 * @throws FormatError with the JSON Pointer of what is not there, not in version 2, or more than the file can hold.
 */
export function requireReadable(json: GltfJson, bytes: number): void {
  const { version } = json.asset ?? {};
  if (typeof version !== 'string' || !/^2\./.test(version)) throw new FormatError(`/asset/version: it is ${said(version)}; this reads glTF 2.0.`);
  const packed = listOf(json.extensionsRequired as readonly unknown[]).find((name) => name === 'KHR_draco_mesh_compression');
  if (packed) throw new FormatError('/extensionsRequired: the meshes are compressed by KHR_draco_mesh_compression, which is not read. Write the file without compression, or with EXT_meshopt_compression.'); // prettier-ignore
  requireViews(json);
  const counts = listOf(json.accessors).map((accessor, k) => {
    const { count, bufferView, sparse } = accessor ?? {};
    if (!Number.isInteger(count) || (count as number) < 1)
      throw new FormatError(`/accessors/${k}/count: it is ${said(count)}; it must be a whole number from 1.`);
    if (bufferView === undefined && sparse === undefined)
      throw new FormatError(
        `/accessors/${k}: it has no bufferView, so there are no values in it. Compressed meshes are not read; write the file without compression.`,
      );
    // The least value has one byte, but for sparse ones, which may leave most of their values out.
    requireWithin(json, accessor, k);
    if ((count as number) > bytes && !isPacked(json, bufferView))
      throw new FormatError(`/accessors/${k}/count: the file of ${bytes} bytes cannot hold ${String(count)} values.`);
    return count as number;
  });
  const countOf = (accessor: unknown): number => (typeof accessor === 'number' ? (counts[accessor] ?? 0) : 0);
  const sizes = listOf(json.meshes).map((mesh) =>
    listOf(mesh?.primitives).reduce((sum, primitive) => sum + Math.max(countOf(primitive?.attributes?.['POSITION']), countOf(primitive?.indices)), 0),
  );
  const placed = listOf(json.nodes).reduce((sum, node) => sum + (typeof node?.mesh === 'number' ? (sizes[node.mesh] ?? 0) : 0), 0);
  if (placed > mostPlaced) throw new FormatError(`/nodes: they place ${placed} vertices in all; the limit is ${mostPlaced}.`);
}

const componentBytes: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const componentCounts: Readonly<Record<string, number>> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };

const whole = (value: unknown, usual: number): number =>
  value === undefined ? usual : Number.isInteger(value) && (value as number) >= 0 ? (value as number) : NaN;

/** Whether a view's bytes are compressed, so that the file may hold fewer than it stands for. */
const isPacked = (json: GltfJson, view: unknown): boolean =>
  typeof view === 'number' && !!Object.keys(listOf(json.bufferViews)[view]?.extensions ?? {}).some((name) => /_meshopt_compression$/.test(name));

/** @throws FormatError for a view that reaches over its buffer, and for primitives of a mode that there is not. */
function requireViews(json: GltfJson): void {
  listOf(json.bufferViews).forEach((view, k) => {
    const buffer = listOf(json.buffers)[whole(view?.buffer, NaN)];
    if (!buffer) throw new FormatError(`/bufferViews/${k}/buffer: it is ${said(view?.buffer)}; there are ${listOf(json.buffers).length} buffers.`);
    const end = whole(view?.byteOffset, 0) + whole(view?.byteLength, NaN);
    if (!(end <= whole(buffer.byteLength, NaN)) && !isPacked(json, k))
      throw new FormatError(`/bufferViews/${k}: it ends at byte ${end}; its buffer has ${String(buffer.byteLength)}.`);
  });
  listOf(json.meshes).forEach((mesh, m) =>
    listOf(mesh?.primitives).forEach((primitive, p) => {
      const mode = whole(primitive?.mode, 4);
      if (!(mode <= 6)) throw new FormatError(`/meshes/${m}/primitives/${p}/mode: it is ${said(primitive?.mode)}; modes are 0 to 6.`);
      for (const [name, accessor] of [...Object.entries(primitive?.attributes ?? {}), ['indices', primitive?.indices] as const])
        if (accessor !== undefined && !listOf(json.accessors)[whole(accessor, NaN)])
          throw new FormatError(`/meshes/${m}/primitives/${p}: "${name}" names accessor ${said(accessor)}; there are ${listOf(json.accessors).length}.`);
    }),
  );
}

/** @throws FormatError for an accessor whose values reach over its view, or are of no kind that there is. */
function requireWithin(json: GltfJson, { bufferView, byteOffset, componentType, type, count }: GltfAccessor, k: number): void {
  const size = (componentBytes[componentType as number] ?? NaN) * (componentCounts[type as string] ?? NaN);
  if (Number.isNaN(size)) throw new FormatError(`/accessors/${k}: its values are ${said(type)} of ${said(componentType)}, which there are not.`);
  if (bufferView === undefined) return;
  const view = listOf(json.bufferViews)[whole(bufferView, NaN)];
  if (!view) throw new FormatError(`/accessors/${k}/bufferView: it is ${said(bufferView)}; there are ${listOf(json.bufferViews).length}.`);
  const stride = whole(view.byteStride, size) || size;
  const end = whole(byteOffset, 0) + stride * ((count as number) - 1) + size;
  if (!(end <= whole(view.byteLength, NaN)))
    throw new FormatError(`/accessors/${k}: its ${String(count)} values end at byte ${end}; its view has ${String(view.byteLength)}.`);
}

const listOf = <T>(list: readonly T[] | undefined): readonly T[] => (Array.isArray(list) ? list : []);

/**
 * The JSON of a binary glTF file, its chunks looked at (Khronos, glTF 2.0 specification, section 4.4).
 * @throws FormatError with the byte at which it is no such file.
 */
export function glbJson(bytes: Uint8Array): GltfJson {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== 0x46546c67)
    throw new FormatError('Byte 0: this is not a binary glTF file (its first four bytes are not "glTF").');
  if (view.getUint32(4, true) !== 2) throw new FormatError(`Byte 4: the file says it is version ${view.getUint32(4, true)}; this reads version 2.`);
  const length = view.getUint32(8, true);
  if (length > bytes.length) throw new FormatError(`Byte 8: the file says it has ${length} bytes, but it has ${bytes.length}.`);
  if (view.getUint32(16, true) !== 0x4e4f534a) throw new FormatError('Byte 16: the first chunk is not the JSON one.');
  for (let at = 12; at + 8 <= length;) {
    const size = view.getUint32(at, true);
    if (size % 4) throw new FormatError(`Byte ${at}: a chunk has ${size} bytes; their number must be a multiple of 4.`);
    if (at + 8 + size > length) throw new FormatError(`Byte ${at}: a chunk of ${size} bytes reaches over the end of the file.`);
    at += 8 + size;
  }
  return parseGltf(new TextDecoder().decode(bytes.subarray(20, 20 + view.getUint32(12, true))), 'Byte 20: ');
}
