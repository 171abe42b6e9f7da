/** Imports point one way: core ← formats ← protocol ← apps. */
const only = (from, allowed) => ({
  name: `${from}-imports`,
  severity: 'error',
  from: { path: `^${from}/src` },
  to: { path: '^(packages|apps)/', pathNot: [`^${from}/`, ...allowed.map((folder) => `^${folder}/`)] },
});

/** Inside the core: kernels and the words of the graph ← nodes ← run ← checks. Each layer names those that it may not look at. */
const layer = (name, path, beyond) => ({
  name: `core-${name}-imports`,
  severity: 'error',
  from: { path: `^packages/core/src/${path}/`, pathNot: '^packages/core/src/index' },
  to: { path: `^packages/core/src/(${beyond})/` },
});
const inCore = [layer('kernels', '(?!nodes|run|checks)[^/]+', 'nodes|run|checks'), layer('nodes', 'nodes', 'run|checks'), layer('run', 'run', 'checks')];

module.exports = {
  forbidden: [
    only('packages/core', []),
    only('packages/formats', ['packages/core']),
    only('packages/protocol', ['packages/core', 'packages/formats']),
    only('apps/cli', ['packages/core', 'packages/formats']),
    only('apps/server', ['packages/core', 'packages/protocol']),
    only('apps/web', ['packages/core', 'packages/formats', 'packages/protocol']),
    ...inCore,
    {
      name: 'no-circles-between-files',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'unused-file',
      severity: 'error',
      from: { orphan: true, path: '^(packages|apps)/[^/]+/src', pathNot: ['\\.d\\.ts$', 'main\\.ts$', '\\.worker\\.ts$'] },
      to: {},
    },
  ],
  options: { tsConfig: { fileName: 'tsconfig.json' }, tsPreCompilationDeps: true, doNotFollow: { path: 'node_modules' }, exclude: { path: 'dist|generated' } },
};
