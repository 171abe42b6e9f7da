/**
 * Compiles the JSON Schemas to plain functions, so that browsers need no `eval` for them (the content policy forbids it).
 * Run by `npm run generate` after a schema changed; a test says when it was forgotten.
 */
import { writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { resolve } from 'node:path';
import { Ajv } from 'ajv';
import { build } from 'esbuild';
import { documentSchema } from '../packages/core/src/document/document.js';

// The package is CommonJS: its default export is the module itself.
const standaloneCode = createRequire(import.meta.url)('ajv/dist/standalone') as (ajv: Ajv, validate: unknown) => string;

export const generatedPath = resolve(import.meta.dirname, '../packages/core/src/document/generated/documentValidator.js');

/** The module's text: one exported function `validate` with Ajv's `errors`. */
export async function generateDocumentValidator(): Promise<string> {
  const ajv = new Ajv({ allErrors: false, strict: false, code: { source: true, esm: true } });
  const source = standaloneCode(ajv, ajv.compile(documentSchema));
  const bundled = await build({ stdin: { contents: source, resolveDir: import.meta.dirname }, bundle: true, format: 'esm', write: false, charset: 'utf8' });
  return `// Made by scripts/generate-validators.ts from the document schema. Do not edit.\n${bundled.outputFiles[0].text}`;
}

if (process.argv[1] && resolve(process.argv[1]) === resolve(import.meta.filename)) {
  writeFileSync(generatedPath, await generateDocumentValidator());
  console.log('Wrote the document validator.');
}
