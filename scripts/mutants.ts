/**
 * `npm run mutants -- FOLDER … [--count 20] [--seed 1] [--interface 'view drawing']`: puts small faults into the code of folders, one at a time, and looks whether types or tests
 * notice. Says which went unnoticed: there a test is missing, or the code is not needed. It works in a checkout of its own of what is committed (`.local/mutants`), so that no
 * fault can stay in the code. Tests of the interface whose files are named (`view` is `e2e/view.spec.ts`) are asked about faults of the web that nobody else noticed: each of
 * them needs a build.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { relative, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import ts from 'typescript';

const home = resolve(import.meta.dirname, '..');
/** Where faults are put in. */
const root = resolve(home, '.local/mutants');
const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { count: { type: 'string', default: '20' }, seed: { type: 'string', default: '1' }, interface: { type: 'string', default: '' } },
});
if (!positionals.length) throw new Error('Which folders? For example: npm run mutants -- packages/core/src/gauge --count 20');

/** Another operator in the place of one, so that most programs still compile. */
const operators: Readonly<Record<string, string>> = {
  '<': '<=', '<=': '<', '>': '>=', '>=': '>', '+': '-', '-': '+', '*': '/', '/': '*', '&&': '||', '||': '&&', '??': '&&',
  '===': '!==', '!==': '===', '+=': '-=', '-=': '+=', '%': '*', '&': '|', '|': '&',
}; // prettier-ignore

/** A fault: the text from one place to another is replaced. */
interface Fault {
  readonly file: string;
  readonly from: number;
  readonly to: number;
  readonly by: string;
  readonly was: string;
  readonly line: number;
}

function faultsIn(file: string): Fault[] {
  const text = readFileSync(file, 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const found: Fault[] = [];
  const put = (node: ts.Node, by: string): void => {
    const from = node.getStart();
    found.push({ file, from, to: node.end, by, was: text.slice(from, node.end), line: source.getLineAndCharacterOfPosition(from).line + 1 });
  };
  const visit = (node: ts.Node): void => {
    // Texts for people, types and imports are no computation.
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const by = operators[node.operatorToken.getText()];
      const joinsTexts = node.operatorToken.kind === ts.SyntaxKind.PlusToken && (ts.isStringLiteralLike(node.left) || ts.isStringLiteralLike(node.right));
      if (by && !joinsTexts) put(node.operatorToken, by);
    } else if (ts.isNumericLiteral(node)) put(node, node.text === '0' ? '1' : node.text === '1' ? '2' : `(${node.text} * 1.5)`);
    else if (node.kind === ts.SyntaxKind.TrueKeyword) put(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) put(node, 'true');
    else if (ts.isPrefixUnaryExpression(node) && (node.operator === ts.SyntaxKind.ExclamationToken || node.operator === ts.SyntaxKind.MinusToken))
      put(node, node.operand.getText());
    else if (ts.isIfStatement(node) && !node.elseStatement) put(node.expression, 'false');
    else if (ts.isExpressionStatement(node) && ts.isCallExpression(node.expression)) put(node, ';');
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** The same numbers from 0 to 1 for the same seed (Steele, Lea & Flood 2014: SplitMix, 32 bits; from memory). */
function chances(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x9e3779b9) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 16), 0x85ebca6b);
    mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
    return ((mixed ^ (mixed >>> 16)) >>> 0) / 2 ** 32;
  };
}

rmSync(root, { recursive: true, force: true });
mkdirSync(resolve(home, '.local'), { recursive: true });
spawnSync('git', ['worktree', 'prune'], { cwd: home });
const checkedOut = spawnSync('git', ['worktree', 'add', '--detach', root, 'HEAD'], { cwd: home, encoding: 'utf8' });
if (!existsSync(resolve(root, 'package.json'))) throw new Error(`A checkout of its own could not be made: ${checkedOut.stderr}`);
for (const folder of ['', 'apps/web/', 'apps/server/', 'apps/cli/', 'packages/core/', 'packages/formats/', 'packages/protocol/'])
  if (existsSync(resolve(home, `${folder}node_modules`))) symlinkSync(resolve(home, `${folder}node_modules`), resolve(root, `${folder}node_modules`));

const git = (...given: string[]): string[] => spawnSync('git', given, { cwd: root, encoding: 'utf8' }).stdout.split('\n').filter(Boolean);
const files = git('ls-files', ...positionals.map((folder) => `${folder}/**/*.ts`), ...positionals.map((folder) => `${folder}/*.ts`)).filter(
  (file) => !/\.(test|spec|d)\.ts$|\/test\/|generated/.test(file),
);
if (!files.length) throw new Error(`There is no code in ${positionals.join(', ')}.`);
/** Types are looked at by a service that knows the other files already. */
const texts = new Map<string, { version: number; text: string }>();
const textOf = (file: string): string => texts.get(file)?.text ?? readFileSync(file, 'utf8');
const options: ts.CompilerOptions = ts.parseJsonConfigFileContent(
  ts.readConfigFile(resolve(root, 'tsconfig.json'), (file) => ts.sys.readFile(file)).config,
  ts.sys,
  root,
).options;
const service = ts.createLanguageService({
  getCompilationSettings: () => ({ ...options, noEmit: true, noUnusedLocals: false, noUnusedParameters: false, experimentalDecorators: true }),
  getScriptFileNames: () => files.map((file) => resolve(root, file)),
  getScriptVersion: (file) => String(texts.get(file)?.version ?? 0),
  getScriptSnapshot: (file) => (ts.sys.fileExists(file) ? ts.ScriptSnapshot.fromString(textOf(file)) : undefined),
  getCurrentDirectory: () => root,
  getDefaultLibFileName: (given) => ts.getDefaultLibFilePath(given),
  fileExists: (file) => ts.sys.fileExists(file),
  readFile: (file) => ts.sys.readFile(file),
  directoryExists: (folder) => ts.sys.directoryExists(folder),
  getDirectories: (folder) => ts.sys.getDirectories(folder),
});
function typesNotice(file: string, text: string): boolean {
  const before = service.getSemanticDiagnostics(file).length;
  texts.set(file, { version: (texts.get(file)?.version ?? 0) + 1, text });
  const after = service.getSemanticDiagnostics(file).length + service.getSyntacticDiagnostics(file).length;
  texts.set(file, { version: texts.get(file)!.version + 1, text: readFileSync(file, 'utf8') });
  return after > before;
}

const testFiles = git('ls-files', '*.test.ts');
/** Files of the same program that import a file, as git knows it. */
const importersOf = (file: string): string[] => {
  const name = relative(root, file).split('/').pop()!.replace(/\.ts$/, '');
  return git('grep', '-l', '-E', `from '[^']*/${name}(\\.js)?'`, '--', '*.ts');
};

/** Tests that speak of what a file exports, or of the nodes that it is or serves: they are tried first, since they are few. */
function nearTests(file: string): string[] {
  // A test that starts or bundles a program names its place, or where it begins: then all that the program is made of is in it.
  const room = /^(?:apps|packages)\/[^/]+\//.exec(relative(root, file))?.[0] ?? '';
  const spoken = new Set<string>([relative(root, file)]);
  for (const each of [file, ...importersOf(file).map((importer) => resolve(root, importer))]) {
    const text = readFileSync(each, 'utf8');
    for (const [, type] of text.matchAll(/\btype: '([a-z]+\.[A-Za-z0-9]+)'/g)) spoken.add(type);
    if (each === file) for (const [, name] of text.matchAll(/export (?:async )?(?:function\*?|const|class) (\w+)/g)) spoken.add(name);
  }
  return testFiles.filter((test) => {
    const text = readFileSync(resolve(root, test), 'utf8');
    return [...spoken].some((word) => text.includes(word)) || (test.startsWith(room) && text.includes('src/main.ts'));
  });
}

const passes = (folder: string, program: 'npx' | 'npm', ...given: string[]): boolean =>
  spawnSync(program, given, { cwd: resolve(root, folder), encoding: 'utf8', timeout: 600_000, env: { ...process.env, NG_CLI_ANALYTICS: 'false' } }).status ===
  0;

const vitest = (...given: string[]): boolean => passes('.', 'npx', 'vitest', ...given, '--bail', '1', '--silent', '--reporter', 'dot');

/** Tests of components run in the application's own build; a fault that does not build is noticed too. */
const components = (): boolean => passes('apps/web', 'npx', 'ng', 'test');

/** Tests of the real interface that were named. The application is built with the fault first. */
const interfaceFiles = values.interface.split(' ').filter(Boolean).map((name) => `e2e/${name}.spec.ts`); // prettier-ignore
const realInterface = (): boolean =>
  !interfaceFiles.length ||
  (passes('apps/web', 'npm', 'run', 'build') && passes('.', 'npx', 'playwright', 'test', ...interfaceFiles, '--max-failures', '1', '--retries', '0'));

function testsNotice(file: string, text: string): boolean {
  const near = nearTests(file);
  const good = readFileSync(file, 'utf8');
  writeFileSync(file, text);
  const unnoticed =
    (!near.length || vitest('run', ...near)) && vitest('related', '--run', file) && (!file.includes('/apps/web/src/') || (components() && realInterface()));
  writeFileSync(file, good);
  return !unnoticed;
}

const chance = chances(Number(values.seed));
const all = files.flatMap((file) => faultsIn(resolve(root, file)));
const chosen = new Set<Fault>();
while (chosen.size < Math.min(Number(values.count), all.length)) chosen.add(all[Math.floor(chance() * all.length)]);
// What fails without a fault would count as noticing it.
if (!realInterface()) throw new Error(`Tests of the interface (${values.interface}) fail as the code is: run them by themselves first.`);
const counts = { types: 0, tests: 0, unnoticed: 0 };
for (const fault of chosen) {
  const { file, from, to, by, was, line } = fault;
  const good = readFileSync(file, 'utf8');
  const text = good.slice(0, from) + by + good.slice(to);
  const noticed = typesNotice(file, text) ? 'types' : testsNotice(file, text) ? 'tests' : 'unnoticed';
  counts[noticed]++;
  console.log(`${noticed.padEnd(10)} ${relative(root, file)}:${line}  ${was.replace(/\s+/g, ' ').slice(0, 60)} → ${by.slice(0, 40)}`);
}
const left = counts.tests + counts.unnoticed;
console.log(
  `${chosen.size} faults of ${all.length}: types noticed ${counts.types}, tests ${counts.tests}, nobody ${counts.unnoticed}; tests noticed ${left ? Math.round((100 * counts.tests) / left) : 100} % of what types let through.`,
);
spawnSync('git', ['worktree', 'remove', '--force', root], { cwd: home });
