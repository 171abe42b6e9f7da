import type { WarningCode } from '../definition/define.js';

/** Something wrong with a document: where (JSON Pointer), what, and which node shows it, if one does. */
export interface Problem {
  readonly pointer: string;
  readonly message: string;
  readonly node?: string;
  readonly setting?: string;
  /** What kind of fault it is, where one of the names of warnings says it. */
  readonly code?: WarningCode;
  /** Only follows from another problem, so it need not be told beside it. */
  readonly follows?: boolean;
}

/** A document that cannot be used, with all that is known to be wrong. */
export class DocumentError extends Error {
  override name = 'DocumentError';
  constructor(readonly problems: readonly Problem[]) {
    super(problems.map(({ pointer, message }) => (pointer ? `${pointer}: ${message}` : message)).join('\n'));
  }
}
