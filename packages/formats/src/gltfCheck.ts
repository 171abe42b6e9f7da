import { FormatError } from './errors.js';

/** Vertices that the nodes of a file may place in all, however often they place them: what a step of a graph may make too. */
const mostPlaced = 20_000_000;

interface GltfJson {
  readonly asset?: { readonly version?: unknown };
  readonly buffers?: readonly { uri?: unknown }[];
  readonly accessors?: readonly { readonly count?: unknown; readonly bufferView?: unknown; readonly sparse?: unknown }[];
  readonly meshes?: readonly { readonly primitives?: readonly { readonly attributes?: { readonly POSITION?: unknown }; readonly indices?: unknown }[] }[];
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
  return json as GltfJson;
}

/**
 * Looks through a glTF file before anything is made of it, so that no small file can ask for much memory.
 * @param bytes size of the file.
 * @throws FormatError with the JSON Pointer of what is not there, not in version 2, or more than the file can hold.
 */
export function requireReadable(json: GltfJson, bytes: number): void {
  const { version } = json.asset ?? {};
  if (typeof version !== 'string' || !/^2\./.test(version)) throw new FormatError(`/asset/version: it is ${JSON.stringify(version)}; this reads glTF 2.0.`);
  const counts = listOf(json.accessors).map((accessor, k) => {
    const { count, bufferView, sparse } = accessor ?? {};
    if (!Number.isInteger(count) || (count as number) < 1)
      throw new FormatError(`/accessors/${k}/count: it is ${JSON.stringify(count)}; it must be a whole number from 1.`);
    if (bufferView === undefined && sparse === undefined)
      throw new FormatError(
        `/accessors/${k}: it has no bufferView, so there are no values in it. Compressed meshes are not read; write the file without compression.`,
      );
    // The least value has one byte, but for sparse ones, which may leave most of their values out.
    if ((count as number) > bytes) throw new FormatError(`/accessors/${k}/count: the file of ${bytes} bytes cannot hold ${String(count)} values.`);
    return count as number;
  });
  const countOf = (accessor: unknown): number => (typeof accessor === 'number' ? (counts[accessor] ?? 0) : 0);
  const sizes = listOf(json.meshes).map((mesh) =>
    listOf(mesh?.primitives).reduce((sum, primitive) => sum + Math.max(countOf(primitive?.attributes?.POSITION), countOf(primitive?.indices)), 0),
  );
  const placed = listOf(json.nodes).reduce((sum, node) => sum + (typeof node?.mesh === 'number' ? (sizes[node.mesh] ?? 0) : 0), 0);
  if (placed > mostPlaced) throw new FormatError(`/nodes: they place ${placed} vertices in all; the limit is ${mostPlaced}.`);
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
