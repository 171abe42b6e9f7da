import { faultyText } from '../base/text.js';
import { currentEdition, type FilaxisDocument } from './document.js';
import { validate } from './generated/documentValidator.js';
import { DocumentError } from './problem.js';
import { upgradeDocument } from './upgrade.js';

const oldestVersion = 1;

const newestVersion = 1;

/**
 * Reads JSON text as a document.
 * @throws DocumentError when the text is no JSON (with the place), or does not fit the schema (with the JSON Pointer).
 */
export function parseDocument(text: string): FilaxisDocument {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    throw new DocumentError([{ pointer: '', message: `This is not JSON: ${(error as Error).message}.` }]);
  }
  return requireDocument(data);
}

/**
 * Checks the form of a document; node settings and wires are checked by `checkDocument`.
 * @throws DocumentError naming the first place that does not fit.
 */
export function requireDocument(data: unknown): FilaxisDocument {
  const { version, edition } = (data ?? {}) as { version?: unknown; edition?: unknown };
  if (typeof edition === 'number' && edition > currentEdition)
    throw new DocumentError([{ pointer: '/edition', message: `The document has edition ${edition}; this Filaxis reads editions up to ${currentEdition}.` }]);
  if (typeof version === 'number' && (data as { format?: unknown }).format === 'filaxis-graph' && (version < oldestVersion || version > newestVersion))
    throw new DocumentError([{ pointer: '/version', message: `The document has version ${version}; this Filaxis reads version ${newestVersion}.` }]);
  const text = faultyText(data);
  if (text) throw new DocumentError([text]);
  if (validate(data)) return upgradeDocument(data as FilaxisDocument);
  const [error] = validate.errors ?? [];
  const extra = error?.params['additionalProperty'] as string | undefined;
  const allowed = error?.params['allowedValue'] ?? error?.params['allowedValues'];
  const detail = allowed === undefined ? '' : `: ${JSON.stringify(allowed)}`;
  const message = extra === undefined ? `${error?.message ?? 'does not fit the schema'}${detail}` : `has no "${extra}"`;
  throw new DocumentError([{ pointer: error?.instancePath ?? '', message: `The document ${error?.instancePath ? 'here ' : ''}${message}.` }]);
}
