/** A file that cannot be read or written. The message says where (line, element or byte) and what was found. */
export class FormatError extends Error {
  override name = 'FormatError';

  /** `cure`: what to choose otherwise for a file to be written, where that is known. */
  constructor(
    message: string,
    readonly cure?: WriteCure,
  ) {
    super(message);
  }
}

/**
 * What makes a file possible: another format, no tangents, no value as the vertex colour, or a file for each frame.
 */
export type WriteCure = 'format' | 'no-tangents' | 'no-colour' | 'file-a-frame';
