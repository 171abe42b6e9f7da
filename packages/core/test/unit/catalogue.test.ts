import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { cataloguePath, generateCatalogue } from '../../../../scripts/generate-catalogue.js';
import { nodeDefinitions, type NodeDefinition } from '../../src/index.js';
import { defineNode } from '../../src/definition/define.js';
import { families } from '../../src/definition/families.js';
import { anyIn, anyOut, curvesIn, meshIn, meshOut } from '../../src/definition/ports.js';
import { emptyMesh } from '../../src/geometry/mesh.js';

test('the list of nodes is that of their files (else: npm run generate)', () => {
  expect(readFileSync(cataloguePath, 'utf8')).toBe(generateCatalogue());
});

test('each node is in the file of its name', () => {
  for (const { type } of nodeDefinitions.values())
    expect(readFileSync(new URL(`../../src/nodes/${type.replace('.', '/')}.ts`, import.meta.url), 'utf8')).toContain(`type: '${type}'`);
});

describe('names of ports are checked where a node is written', () => {
  const parts = { type: 'flow.test', label: 'T', family: families.flow, summary: '', help: '', settings: {} } as const;

  test('inputs have the type of their kinds, and names that there are', () => {
    defineNode({
      ...parts,
      inputs: [curvesIn, { ...meshIn, optional: true }, { name: 'bodies', kinds: ['mesh'], many: true }],
      outputs: [meshOut],
      run: ({ input, inputs }) => {
        const starts: Uint32Array = input('curves').starts;
        // @ts-expect-error An optional input may be missing.
        const corners: Uint32Array = input('mesh').corners;
        // @ts-expect-error There is no such input.
        input('mehs');
        // @ts-expect-error It takes many wires.
        input('bodies');
        // @ts-expect-error It takes one wire.
        inputs('curves');
        return { mesh: starts.length || corners.length ? inputs('bodies')[0] : emptyMesh };
      },
    });
  });

  test('results have the names and kinds of the outputs', () => {
    defineNode({ ...parts, inputs: [anyIn], outputs: [anyOut], run: ({ input }) => ({ any: input('any') }) });
    // @ts-expect-error The output is missing.
    defineNode({ ...parts, inputs: [anyIn], outputs: [meshOut], run: () => ({ mehs: emptyMesh }) });
    // @ts-expect-error A mesh is no curves.
    defineNode({ ...parts, inputs: [curvesIn], outputs: [meshOut], run: ({ input }) => ({ mesh: input('curves') }) });
  });
});

describe('every node says of itself what the rest of the program asks', () => {
  /** What one has to know of a node, and which nodes have to say it. */
  const faultsOf = (definition: NodeDefinition): string[] => {
    const { settings, telling, outputs, inputs, thickness, eases, attributes, family, role, standsAlone, keywords, summary, help } = definition;
    const own = Object.keys(settings).filter((name) => name !== 'where' && name !== 'on');
    const said = (condition: boolean, text: string): string[] => (condition ? [] : [text]);
    return [
      ...said(keywords.length > 0, 'keywords'),
      ...said(/^[A-Z].*\.$/.test(summary), 'a summary that is a sentence'),
      ...said(/^[A-Z].*\.$/s.test(help) && help.length > summary.length / 2, 'help'),
      ...said(
        telling.every((name) => own.includes(name)),
        `settings that tell: ${telling.join(', ')}`,
      ),
      ...said(Object.keys(definition.asks).length > 0, 'what artists ask for'),
      ...said(telling.length > 0 || own.every((name) => settings[name].kind === 'boolean'), 'a setting that tells most'),
      ...said(outputs.length > 0 || role === 'output', 'outputs, or that it is one'),
      ...said(
        outputs.every(({ kind, follows }) => (kind === 'any') === inputs.some(({ name }) => name === follows)),
        'which input an output of any kind follows',
      ),
      // Skins that follow the frames of curves run along them; lofts and fills lie over them.
      ...said(family.id !== 'skin' || !attributes.reads.includes('tangent') || thickness !== undefined, 'thickness'),
      ...said(!thickness || settings[thickness.setting]?.kind === 'number', 'a setting that gives its thickness'),
      ...said(
        Object.values(eases)
          .flat()
          .every((ease) => ('setting' in ease ? own.includes(ease.setting) : nodeDefinitions.has(ease.before))),
        'settings or nodes that ease',
      ),
      ...Object.values(settings).flatMap((setting) => {
        if (setting.kind !== 'number' && setting.kind !== 'integer') return [];
        const { special, help: text, label, default: usual } = setting;
        return [
          ...said(
            special === undefined || (typeof usual === 'number' && special.instead !== usual && special.instead > (setting.min ?? -Infinity)),
            `a number besides “${special?.called}”`,
          ),
          ...said(!/\b0:? (takes|leaves smooth|fits|joins|measures|sets|ends|however)|above 0:/i.test(text), `what 0 stands for at ${label}, as \`special\``),
        ];
      }),
      ...said(!settings['asset'] || role === 'import' || standsAlone !== undefined, 'that it takes a file'),
      ...said(attributes.named === undefined || Array.isArray(attributes.named(defaultsOf(definition))), 'names that it writes'),
    ];
  };
  const defaultsOf = ({ settings }: NodeDefinition): Record<string, unknown> =>
    Object.fromEntries(Object.entries(settings).map(([name, setting]) => [name, setting.default]));

  for (const definition of nodeDefinitions.values()) test(definition.type, () => expect(faultsOf(definition)).toEqual([]));

  test('the first guess after a wire of a kind is one node, which takes that kind', () => {
    for (const kind of ['curves', 'points', 'mesh', 'copies'] as const) {
      const ranks = [...nodeDefinitions.values()].filter(({ usualAfter }) => usualAfter[kind] !== undefined);
      expect(new Set(ranks.map(({ usualAfter }) => usualAfter[kind])).size).toBe(ranks.length);
      expect(ranks.filter(({ usualAfter }) => usualAfter[kind] === 1).length).toBe(1);
      for (const { inputs } of ranks) expect(inputs.some(({ kinds }) => kinds.includes(kind) || kinds.includes('any'))).toBe(true);
    }
  });

  test('each fault of a mesh is mended by one node', () => {
    for (const fault of ['inside-out', 'winding', 'double', 'degenerate', 'shading', 'stretch'] as const)
      expect([...nodeDefinitions.values()].filter(({ mends }) => mends[fault]).length).toBe(1);
  });
});
