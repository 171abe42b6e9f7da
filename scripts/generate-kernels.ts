/**
 * Turns the loops of formulas into WebAssembly that is part of the program. Run by `npm run generate` after kernels.wat changed; a test says when it was
 * forgotten.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import wabt from 'wabt';

const folder = resolve(import.meta.dirname, '../packages/core/src/values/formula');
export const kernelsPath = resolve(folder, 'generated/kernels.ts');

/** The module's text: the program's bytes in base 64. */
export async function generateKernels(): Promise<string> {
  const module = (await wabt()).parseWat('kernels.wat', readFileSync(resolve(folder, 'kernels.wat'), 'utf8'), { simd: true });
  const bytes = Buffer.from(module.toBinary({}).buffer).toString('base64');
  const lines = bytes.match(/.{1,140}/g)!.map((line) => `  '${line}'`);
  return `// Made by scripts/generate-kernels.ts from kernels.wat. Do not edit.\n/** WebAssembly in base 64. */\nexport const kernelBytes =\n${lines.join(' +\n')};\n`;
}

if (process.argv[1] && resolve(process.argv[1]) === resolve(import.meta.filename)) {
  writeFileSync(kernelsPath, await generateKernels());
  console.log('Wrote the loops of formulas.');
}
