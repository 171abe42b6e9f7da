/** `npm test`: does all set-up, then runs every check and every test, and says plainly what failed. */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { resolve } from 'node:path';
import { needNode, needPackages, needWeb } from './build.mjs';
import { needAssimp, needChromium, needPostgres } from './debian.mjs';
import { Stopped } from './stopped.mjs';

const root = resolve(import.meta.dirname, '..');
const reports = resolve(root, 'test-results');

/** Runs a step with its output shown; true when it went well. */
function step(name, command, args) {
  console.log(`\n== ${name}`);
  const started = Date.now();
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, NO_COLOR: '1', NG_CLI_ANALYTICS: 'false' } });
  console.log(`== ${name}: ${status === 0 ? 'fine' : 'FAILED'} (${Math.round((Date.now() - started) / 1000)} s)`);
  return status === 0;
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
  const results = [
    ['types', step('types', bin('tsc'), ['-p', 'tsconfig.json'])],
    // The application itself was looked at when it was built.
    ['types of the web tests', step('types of the web tests', 'npm', ['run', '--silent', 'typecheck:tests', '-w', '@filaxis/web'])],
    ['lint', step('lint', bin('eslint'), ['.'])],
    ['format', step('format', bin('prettier'), ['--check', '--log-level', 'warn', '.'])],
    ['imports', step('imports', bin('depcruise'), ['packages', 'apps', '--config', '.dependency-cruiser.cjs', '--output-type', 'err'])],
    [
      'unit, property, reference, server and command line tests',
      step('unit tests', bin('vitest'), ['run', '--reporter=dot', '--reporter=json', '--outputFile.json=test-results/unit.json']),
    ],
    ['tests of components', step('tests of components', 'npm', ['run', '--silent', 'components', '-w', '@filaxis/web'])],
    ['tests of the interface', step('tests of the interface', bin('playwright'), ['test'])],
  ];
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
