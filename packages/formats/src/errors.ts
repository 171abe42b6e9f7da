/** A file that cannot be read or written. The message says where (line, element or byte) and what was found. */
export class FormatError extends Error {
  override name = 'FormatError';
}
