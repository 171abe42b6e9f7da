import { createHash } from 'node:crypto';
import { arraysOf, resultOf, type RunResult } from '../src/index.js';

/** A fingerprint of everything that a run made. */
export function fingerprint(run: RunResult): string {
  const hash = createHash('sha256');
  for (const [id, result] of run.nodes) {
    hash.update(id);
    for (const geometry of Object.values(resultOf(result))) {
      hash.update(geometry.type).update([...geometry.attributes.keys()].join());
      for (const array of arraysOf(geometry)) hash.update(new Uint8Array(array.buffer, array.byteOffset, array.byteLength));
    }
  }
  return hash.digest('hex');
}
