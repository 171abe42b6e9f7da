/** `npm test`: does all set-up, then runs every check and every test, and says plainly what failed. */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { resolve } from 'node:path';
import { needNode, needPackages, needWeb } from './build.mjs';
import { needAssimp, needChromium, needPostgres } from './debian.mjs';
import { Stopped } from './stopped.mjs';

const root = resolve(import.meta.dirname, '..');
const reports = resolve(root, 'test-results');

/** Runs a step; true when it went well. Its output is shown as it comes, or all at its end where others run beside it. */
async function step(name, command, args, { beside = false } = {}) {
  const head = `\n== ${name}\n`;
  if (!beside) process.stdout.write(head);
  const started = Date.now();
  const child = spawn(command, args, {
    cwd: root,
    stdio: beside ? ['ignore', 'pipe', 'pipe'] : 'inherit',
    env: { ...process.env, NO_COLOR: '1', NG_CLI_ANALYTICS: 'false' },
  });
  const said = [];
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (some) => said.push(some));
  const fine = await new Promise((done) => {
    child.once('error', (error) => {
      said.push(`${error.message}\n`);
      done(false);
    });
    child.once('close', (code) => done(code === 0));
  });
  console.log(`${beside ? head : ''}${said.map(String).join('')}== ${name}: ${fine ? 'fine' : 'FAILED'} (${Math.round((Date.now() - started) / 1000)} s)`);
  return [name, fine];
}

/** Steps one after another. */
async function inTurn(...steps) {
  const results = [];
  for (const each of steps) results.push(await each());
  return results;
}

function counted(file, count) {
  const path = resolve(reports, file);
  return existsSync(path) ? count(JSON.parse(readFileSync(path, 'utf8'))) : { passed: 0, failed: 1 };
}

try {
  needNode();
  needPackages();
  needPostgres();
  needChromium();
  needAssimp();
  needWeb();
  rmSync(reports, { recursive: true, force: true });
  mkdirSync(reports, { recursive: true });
  const bin = (name) => resolve(root, 'node_modules/.bin', name);
  const beside = { beside: true };
  // Looking the code over, two at a time: each of these keeps one core busy.
  const looks = await Promise.all([
    inTurn(
      () => step('lint', bin('eslint'), ['.'], beside),
      () => step('imports', bin('depcruise'), ['packages', 'apps', '--config', '.dependency-cruiser.cjs', '--output-type', 'err'], beside),
    ),
    inTurn(
      () => step('types', bin('tsc'), ['-p', 'tsconfig.json'], beside),
      // The application itself was looked at when it was built.
      () => step('types of the web tests', 'npm', ['run', '--silent', 'typecheck:tests', '-w', '@filaxis/web'], beside),
      () => step('format', bin('prettier'), ['--check', '--log-level', 'warn', '.'], beside),
    ),
  ]);
  const tests = await inTurn(
    () => step('unit, property, reference, server and command line tests', bin('vitest'), ['run', '--reporter=dot', '--reporter=json', '--outputFile.json=test-results/unit.json']), // prettier-ignore
    () => step('tests of components', 'npm', ['run', '--silent', 'components', '-w', '@filaxis/web']),
    () => step('tests of the interface', bin('playwright'), ['test']),
  );
  const results = [...looks, tests].flat();
  const byVitest = (report) => ({ passed: report.numPassedTests, failed: report.numFailedTests });
  const unit = counted('unit.json', byVitest);
  const components = counted('components.json', byVitest);
  // Playwright empties the folder of its own reports; the unit report lies beside them.
  const e2e = counted('e2e/report.json', ({ stats }) => ({ passed: stats.expected, failed: stats.unexpected + stats.flaky }));
  const sum = (which) => [unit, components, e2e].reduce((total, each) => total + each[which], 0);
  const failed = results.filter(([, fine]) => !fine).map(([name]) => name);
  if (failed.length) console.log(`\nFailed: ${failed.join('; ')}.`);
  console.log(`\n${sum('passed')} passed, ${sum('failed') || failed.length} failed`);
  process.exit(failed.length ? 1 : 0);
} catch (error) {
  console.error(error instanceof Stopped ? error.message : error);
  console.log('\n0 passed, 1 failed');
  process.exit(1);
}
