import { WebIO, type Document } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import type { GeometrySet } from '@filaxis/core';
import { FormatError } from './errors.js';
import { glbJson, parseGltf, requireReadable } from './gltfCheck.js';
import { contentOf } from './gltfContent.js';

/** Reads every extension that the library knows; those that only concern light and materials are read past. Compressed buffers bring their decoder when they are met. */
async function io(json: { extensionsUsed?: unknown }): Promise<WebIO> {
  const reader = new WebIO().registerExtensions(ALL_EXTENSIONS);
  if (Array.isArray(json.extensionsUsed) && json.extensionsUsed.some((name) => /^(EXT|KHR)_meshopt_compression$/.test(String(name)))) {
    const { MeshoptDecoder } = await import('meshoptimizer');
    await MeshoptDecoder.ready;
    reader.registerDependencies({ 'meshopt.decoder': MeshoptDecoder });
  }
  return reader;
}

/** Gives the bytes of a file beside the one that is read, by the name it has there; null: there is none. */
export type Beside = (uri: string) => Uint8Array | null;

/**
 * Meshes, lines and points of a binary glTF file, placed by its nodes.
 * @throws FormatError with the byte or JSON Pointer of what cannot be read.
 */
export async function readGlb(bytes: Uint8Array): Promise<GeometrySet> {
  const json = glbJson(bytes);
  requireReadable(json, bytes.length);
  const reader = await io(json);
  return contentOf(await parsed(() => reader.readBinary(bytes)));
}

/**
 * Meshes, lines and points of a glTF text file whose buffers are in it (data URIs) or beside it.
 * @throws FormatError when the text is no glTF, or names a buffer in a file that is not there.
 */
export async function readGltf(text: string, beside: Beside = () => null): Promise<GeometrySet> {
  const json = parseGltf(text, '');
  const buffers = (Array.isArray(json.buffers) ? json.buffers : []).map((buffer: { uri?: unknown } | null, n: number) => bufferAt(buffer?.uri, n, beside));
  requireReadable(json, text.length + buffers.reduce((sum, bytes) => sum + bytes.length, 0));
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  buffers.forEach((bytes, n) => {
    resources[`buffer${n}`] = bytes as Uint8Array<ArrayBuffer>;
    (json.buffers as { uri?: unknown }[])[n].uri = `buffer${n}`;
  });
  // Pictures are not looked at, so they need not be there.
  const bare = { ...json, images: undefined, textures: undefined, samplers: undefined, materials: withoutPictures(json.materials) };
  const reader = await io(json);
  return contentOf(await parsed(() => reader.readJSON({ json: bare as never, resources })));
}

function bufferAt(uri: unknown, n: number, beside: Beside): Uint8Array {
  const text = typeof uri === 'string' ? uri : '';
  if (!text.startsWith('data:')) {
    const bytes = text ? beside(decodeURIComponent(text)) : null;
    if (!bytes)
      throw new FormatError(
        `/buffers/${n}/uri: the buffer is in another file${text ? `, "${text.slice(0, 80)}", which is not here; give it too` : ''}, or give a .glb.`,
      );
    return bytes;
  }
  const comma = text.indexOf(',');
  try {
    if (!text.slice(0, comma).endsWith(';base64')) throw new RangeError('not base64');
    const signs = atob(text.slice(comma + 1));
    const bytes = new Uint8Array(signs.length);
    for (let i = 0; i < bytes.length; i++) bytes[i] = signs.charCodeAt(i);
    return bytes;
  } catch {
    throw new FormatError(`/buffers/${n}/uri: this is not base64.`);
  }
}

/** Materials with their factors alone. */
const withoutPictures = (materials: unknown): unknown =>
  Array.isArray(materials)
    ? (JSON.parse(JSON.stringify(materials, (key, value: unknown) => (/Texture$/.test(key) ? undefined : value))) as unknown)
    : materials;

async function parsed(read: () => Promise<Document>): Promise<Document> {
  try {
    return await read();
  } catch (error) {
    // What the library did not expect says nothing of the file.
    const why =
      error instanceof TypeError || error instanceof RangeError
        ? 'something in it names a part that is not there, or is not what it should be.'
        : (error as Error).message;
    throw new FormatError(`The glTF file cannot be read: ${why}`);
  }
}
