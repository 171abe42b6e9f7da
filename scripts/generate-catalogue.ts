/**
 * Lists the nodes: every file `nodes/<family>/<node>.ts` of the core whose default export is a node. Run by `npm run generate`, `npm start` and `npm test`,
 * so that adding a node is adding its file; a test says when the list is not that of the files.
 */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';

const folder = resolve(import.meta.dirname, '../packages/core/src/nodes');
export const cataloguePath = resolve(folder, 'generated/list.ts');

/** Families in the order of the work. */
const families = ['lay', 'pace', 'shape', 'aim', 'skin', 'place', 'mesh', 'grow', 'gauge', 'flow'];

/** The module's text: one exported list of all definitions. */
export function generateCatalogue(): string {
  const folders = readdirSync(folder, { withFileTypes: true }).flatMap((entry) => (entry.isDirectory() ? [entry.name] : []));
  const nodes = families
    .filter((family) => folders.includes(family))
    .flatMap((family) =>
      readdirSync(resolve(folder, family))
        .filter((file) => file.endsWith('.ts') && readFileSync(resolve(folder, family, file), 'utf8').includes('export default defineNode('))
        .sort()
        .map((file) => ({ family, name: file.slice(0, -3) })),
    );
  const nameOf = ({ family, name }: { family: string; name: string }): string => `${family}${name[0].toUpperCase()}${name.slice(1)}`;
  return [
    '// Made by scripts/generate-catalogue.ts from the files of the nodes. Do not edit.',
    "import type { NodeDefinition } from '../../definition/define.js';",
    ...nodes.map((node) => `import ${nameOf(node)} from '../${node.family}/${node.name}.js';`),
    '',
    'export const allNodes: readonly NodeDefinition[] = [',
    ...nodes.map((node) => `  ${nameOf(node)},`),
    '];',
    '',
  ].join('\n');
}

if (process.argv[1] && resolve(process.argv[1]) === resolve(import.meta.filename)) {
  writeFileSync(cataloguePath, generateCatalogue());
  console.log('Wrote the list of nodes.');
}
