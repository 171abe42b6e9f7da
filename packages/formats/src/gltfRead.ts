import { WebIO, type Document } from '@gltf-transform/core';
import { EXTMeshGPUInstancing } from '@gltf-transform/extensions';
import type { GeometrySet } from '@filaxis/core';
import { FormatError } from './errors.js';
import { glbJson, parseGltf, requireReadable } from './gltfCheck.js';
import { contentOf } from './gltfContent.js';

const io = (): WebIO => new WebIO().registerExtensions([EXTMeshGPUInstancing]);

/**
 * Meshes, lines and points of a binary glTF file, placed by its nodes.
 * @throws FormatError with the byte or JSON Pointer of what cannot be read.
 */
export async function readGlb(bytes: Uint8Array): Promise<GeometrySet> {
  requireReadable(glbJson(bytes), bytes.length);
  return contentOf(await parsed(() => io().readBinary(bytes as Uint8Array<ArrayBuffer>)));
}

/**
 * Meshes, lines and points of a glTF text file whose buffers are in it (data URIs).
 * @throws FormatError when the text is no glTF, or names buffers in other files.
 */
export async function readGltf(text: string): Promise<GeometrySet> {
  const json = parseGltf(text, '');
  requireReadable(json, text.length);
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  (Array.isArray(json.buffers) ? json.buffers : []).forEach((buffer: { uri?: unknown } | null, n: number) => {
    const uri = typeof buffer?.uri === 'string' ? buffer.uri : '';
    const data = /^data:[^,]*;base64,(.*)$/s.exec(uri);
    if (!buffer || !data) throw new FormatError(`/buffers/${n}/uri: the buffer is in another file; give a .glb, or a .gltf that holds its buffers.`);
    try {
      resources[`buffer${n}`] = Uint8Array.from(atob(data[1]), (letter) => letter.charCodeAt(0));
    } catch {
      throw new FormatError(`/buffers/${n}/uri: this is not base64.`);
    }
    buffer.uri = `buffer${n}`;
  });
  return contentOf(await parsed(() => io().readJSON({ json: json as never, resources })));
}

async function parsed(read: () => Promise<Document>): Promise<Document> {
  try {
    return await read();
  } catch (error) {
    throw new FormatError(`The glTF file cannot be read: ${(error as Error).message}`);
  }
}
