import { FormatError } from './errors.js';
import type { Beside } from './gltfRead.js';
import { textOf } from './text.js';
import { gatherPieces, TextSink } from './textSink.js';

interface BufferFile {
  uri?: unknown;
}

function parsed(bytes: Uint8Array): { file: Record<string, unknown>; buffers: BufferFile[] } {
  let file: Record<string, unknown>;
  try {
    file = JSON.parse(textOf(bytes)) as Record<string, unknown>;
  } catch (error) {
    throw new FormatError(`This is not JSON: ${(error as Error).message}.`);
  }
  const buffers = Array.isArray(file['buffers']) ? (file['buffers'] as unknown[]) : [];
  return { file, buffers: buffers.filter((buffer): buffer is BufferFile => typeof buffer === 'object' && buffer !== null) };
}

const nameOf = ({ uri }: BufferFile): string | null => {
  if (typeof uri !== 'string' || !uri || uri.startsWith('data:')) return null;
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
};

/** Files that the buffers of a glTF text file are in, by the names it has for them. @throws FormatError when it is no JSON. */
export const buffersBeside = (bytes: Uint8Array): string[] => parsed(bytes).buffers.flatMap((buffer) => nameOf(buffer) ?? []);

/** A glTF text file that holds the buffers itself that were beside it; those that `beside` does not give stay as they are. @throws FormatError when it is no JSON. */
export function withBuffersInside(bytes: Uint8Array, beside: Beside): Uint8Array<ArrayBuffer> {
  const { file, buffers } = parsed(bytes);
  for (const buffer of buffers) {
    const name = nameOf(buffer);
    const content = name === null ? null : beside(name);
    if (!content) continue;
    const pieces = gatherPieces();
    const sink = new TextSink(pieces.out);
    sink.base64(content);
    sink.end();
    buffer.uri = `data:application/octet-stream;base64,${textOf(pieces.bytes())}`;
  }
  return new TextEncoder().encode(JSON.stringify(file));
}
