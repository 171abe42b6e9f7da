/** `npm run fuzz [-- --minutes 5 --seed 1 --kind files]`: files, documents, formulas and node settings that nobody meant, for as long as is asked; prints its counts, and what went wrong. */
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { readers, writers } from '../../formats/src/index.js';
import { currentEdition, DocumentError, Evaluator, GeometryError, nodeDefinitions, Plan, requireDocument, type FilaxisDocument } from '../src/index.js';
import { varyingFault } from '../src/varying/varying.js';
import { FormatError } from '../../formats/src/errors.js';
import { extremesOf, runNode, waysOf } from './catalogue.js';

const { values } = parseArgs({ options: { minutes: { type: 'string', default: '1' }, seed: { type: 'string', default: '1' }, kind: { type: 'string' } } });
const until = performance.now() + Number(values.minutes) * 60_000;

/** Numbers from 0 to 1 by a seed (Park and Miller 1988, from memory). */
let state = (Number(values.seed) % 2147483646) + 1;
const random = (): number => (state = (state * 48271) % 2147483647) / 2147483647;
const whole = (below: number): number => Math.floor(random() * below);
const pick = <T>(list: readonly T[]): T => list[whole(list.length)];

const demos = resolve(import.meta.dirname, '../../../demo/documents');
const documents = readdirSync(demos)
  .filter((name) => name.endsWith('.json'))
  .map((name) => readFileSync(resolve(demos, name), 'utf8'));
const oddNumbers = [0, -0, -1, 1, 5e-324, 1e-300, 1e-30, 1e39, 1e308, -1e308, 2 ** 31, 2 ** 53, 0.1];
const oddValues: readonly unknown[] = [
  ...oddNumbers,
  null,
  true,
  '',
  'x',
  'é\ud83d',
  '\u0000',
  [],
  {},
  [1, 2, 3],
  { dial: 'x' },
  { formula: 'x +' },
  { ramp: [] },
  { random: [1, 0] },
  { attribute: 'u' },
];

const raw =
  /of undefined|"undefined"|is not a function|not iterable|Cannot (read|set|convert)|Invalid (typed )?array|call stack|is not defined|out of bounds|Array buffer|Maximum|heap/;

/** Where what is tried now is written. */
const last = resolve(import.meta.dirname, '../../../.local/fuzz-last.txt');
mkdirSync(dirname(last), { recursive: true });

/** What went wrong, by what it was; each once. */
const faults = new Map<string, string>();
const counts = new Map<string, { made: number; refused: number }>();

async function attempt(
  kind: string,
  what: string,
  known: readonly (new (...given: never[]) => Error)[],
  step: () => Promise<unknown> | unknown,
): Promise<void> {
  const count = counts.get(kind) ?? { made: 0, refused: 0 };
  counts.set(kind, count);
  // What ends the whole process is read there.
  writeFileSync(last, `${kind}\n${what}\n`);
  const begun = performance.now();
  try {
    await step();
    count.made++;
  } catch (error) {
    count.refused++;
    const { message } = error as Error;
    if (!known.some((each) => error instanceof each) || raw.test(message)) faults.set(`${kind}: ${String(error).slice(0, 120)}`, what.slice(0, 300));
  }
  if (performance.now() - begun > 10_000) faults.set(`${kind}: took ${((performance.now() - begun) / 1000).toFixed(0)} s`, what.slice(0, 300));
}

/** A tube in every format, to be damaged. */
const tube = await new Evaluator().run(
  new Plan(
    requireDocument({
      format: 'filaxis-graph',
      version: 1,
      edition: currentEdition,
      title: 'x',
      nodes: [
        { id: 'a', type: 'lay.line', settings: { points: 4 } },
        { id: 'b', type: 'skin.tube', settings: { caps: 'flat' } },
      ],
      wires: [{ from: ['a', 'curves'], to: ['b', 'curves'] }],
    }),
  ),
);
const mesh = tube.nodes.get('b')!.outputs['mesh'] as never;
const curves = tube.nodes.get('a')!.outputs['curves'] as never;
const seeds: [string, Uint8Array][] = [];
for (const ending of ['.glb', '.gltf', '.obj', '.stl', '.ply', '.json']) seeds.push([ending, await writers[ending]({ mesh }, 'x')]);
for (const ending of ['.svg', '.csv']) seeds.push([ending, await writers[ending]({ curves }, 'x')]);

function damaged(bytes: Uint8Array): Uint8Array {
  const out = Array.from(bytes);
  for (let n = 1 + whole(6); n > 0; n--) {
    const at = whole(out.length);
    const how = whole(4);
    if (how === 0) out[at] = whole(256);
    else if (how === 1) out.splice(at, 1 + whole(40));
    else if (how === 2) out.splice(at, 0, ...out.slice(at, at + 1 + whole(60)));
    else out.splice(at, 1, ...new TextEncoder().encode(pick(['-1', '1e999', 'NaN', '4294967295', '{', '"', '<', '\n', '\u0000', '/', '[[']))); // prettier-ignore
  }
  return Uint8Array.from(out);
}

/** A document with values anywhere in it changed. */
function bent(text: string): unknown {
  const document = JSON.parse(text) as unknown;
  const places: [object, string][] = [];
  const walk = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return;
    for (const key of Object.keys(value)) {
      places.push([value, key]);
      walk((value as Record<string, unknown>)[key]);
    }
  };
  walk(document);
  for (let n = 1 + whole(3); n > 0; n--) {
    const [owner, key] = pick(places);
    if (random() < 0.15 && Array.isArray(owner)) owner.splice(Number(key), 1);
    else if (random() < 0.15) delete (owner as Record<string, unknown>)[key];
    else (owner as Record<string, unknown>)[key] = pick(oddValues);
  }
  // As it comes through JSON, which has no holes.
  return JSON.parse(JSON.stringify(document)) as unknown;
}

const limits = { points: 200_000, vertices: 200_000, faces: 200_000, copies: 5000, seconds: 20 };
const kinds: Readonly<Record<string, () => Promise<void>>> = {
  files: async () => {
    const [ending, bytes] = pick(seeds);
    const file = damaged(bytes);
    await attempt('files', `${ending} ${new TextDecoder('latin1').decode(file.subarray(0, 200))}`, [FormatError, GeometryError, DocumentError], () =>
      readers[ending](file),
    );
  },
  documents: async () => {
    const data = bent(pick(documents));
    await attempt('documents', JSON.stringify(data), [DocumentError], async () => {
      const run = await new Evaluator({ limits }).run(new Plan(requireDocument(data) as FilaxisDocument));
      for (const { error } of run.nodes.values()) if (error && raw.test(error.message)) throw new Error(`${error.pointer}: ${error.message}`);
    });
  },
  formulas: async () => {
    const words = ['s', 't', 'i', 'c', 'sin', 'noise', '(', ')', '+', '-', '*', '/', '^', '1e308', '0', ',', '?', ':', '<', 'pi', 'x', '..', '%', '!', ' '];
    const text = Array.from({ length: 1 + whole(14) }, () => pick(words)).join(random() < 0.5 ? ' ' : '');
    // What is wrong with a formula is told, not thrown.
    await attempt('formulas', text, [], () => {
      const fault = varyingFault({ formula: text });
      if (fault && raw.test(fault)) throw new Error(fault);
    });
  },
  settings: async () => {
    const definition = pick([...nodeDefinitions.values()]);
    const settings = Object.fromEntries(
      Object.entries(definition.settings).flatMap(([name, setting]) =>
        random() < 0.4 && extremesOf(setting).length ? [[name, pick(extremesOf(setting))]] : [],
      ),
    );
    const run = {
      type: definition.type,
      way: pick(waysOf(definition)),
      settings,
      empty: random() < 0.1,
      size: { curves: 1 + whole(3), points: 1 + whole(12), sheet: 1 + whole(6) },
    };
    const begun = performance.now();
    await attempt('settings', JSON.stringify(run), [], async () => {
      const result = await runNode(run, { cancelled: () => performance.now() - begun > 15_000 }, { limits });
      if (!result) throw new Error('it did not end by itself');
      if (result.error && raw.test(result.error.message)) throw new Error(result.error.message);
    });
  },
};
const asked = values.kind ? [values.kind] : Object.keys(kinds);
for (const kind of asked) if (!Object.hasOwn(kinds, kind)) throw new Error(`There is no kind "${kind}"; there are ${Object.keys(kinds).join(', ')}.`);
while (performance.now() < until) for (const kind of asked) for (let i = 0; i < 25; i++) await kinds[kind]();
for (const [kind, { made, refused }] of counts) console.log(`${kind}: ${(made + refused).toLocaleString('en-GB')} tried, ${made.toLocaleString('en-GB')} taken, ${refused.toLocaleString('en-GB')} refused`); // prettier-ignore
for (const [fault, what] of faults) console.log(`  ${fault}\n    ${what}`);
console.log(faults.size ? `${faults.size} faults, seed ${values.seed}` : 'no fault');
process.exitCode = faults.size ? 1 : 0;
