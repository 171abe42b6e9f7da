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
