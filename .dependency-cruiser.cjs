/** Imports point one way: core ← formats ← protocol ← apps. */
const only = (from, allowed) => ({
  name: `${from}-imports`,
  severity: 'error',
  from: { path: `^${from}/src` },
  to: { path: '^(packages|apps)/', pathNot: [`^${from}/`, ...allowed.map((folder) => `^${folder}/`)] },
});

module.exports = {
  forbidden: [
    only('packages/core', []),
    only('packages/formats', ['packages/core']),
    only('packages/protocol', ['packages/core']),
    only('apps/cli', ['packages/core', 'packages/formats']),
    only('apps/server', ['packages/core', 'packages/protocol']),
    only('apps/web', ['packages/core', 'packages/formats', 'packages/protocol']),
    {
      name: 'core-nodes-know-no-run',
      comment: 'Inside the core: kernels and the words of the graph ← nodes ← run ← checks.',
      severity: 'error',
      from: { path: '^packages/core/src/nodes/' },
      to: { path: '^packages/core/src/(run|checks)/' },
    },
    {
      name: 'core-kernels-know-no-nodes',
      severity: 'error',
      from: { path: '^packages/core/src/', pathNot: '^packages/core/src/(nodes|run|checks)/|^packages/core/src/index\\.ts$' },
      to: { path: '^packages/core/src/(nodes|run|checks)/' },
    },
    {
      name: 'core-run-knows-no-checks',
      severity: 'error',
      from: { path: '^packages/core/src/run/' },
      to: { path: '^packages/core/src/checks/' },
    },
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
