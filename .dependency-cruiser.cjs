/** Imports point one way: core ← formats ← protocol ← apps. */
const only = (from, allowed) => ({
  name: `${from}-imports`,
  severity: 'error',
  from: { path: `^${from}/src` },
  to: { path: '^(packages|apps)/', pathNot: [`^${from}/`, ...allowed.map((folder) => `^${folder}/`)] },
});

/**
 * The rooms of the core, from the ground up: a room looks at those above it in this list, never at those below, nor at its neighbours in a line. So no two
 * folders can lean on each other.
 */
const rooms = [
  ['base'],
  ['geometry', 'values'],
  ['space'],
  ['curves/evaluate'],
  ['curves/change'],
  ['curves/make'],
  ['mesh/topology'],
  ['mesh/change'],
  ['mesh/make', 'mesh/cut'],
  ['near'],
  ['varying'],
  ['skin/plan'],
  ['skin/parts'],
  ['skin/tube', 'skin/sweep', 'skin/loft', 'skin/solid', 'skin/tiles'],
  ['skin/rope', 'skin/forks'],
  ['shape', 'place', 'gauge', 'grow'],
  ['definition'],
  ['nodes/settings'],
  ['nodes/(lay|pace|shape|aim|skin|place|mesh|grow|gauge|flow)'],
  ['nodes/(?!settings|lay|pace|shape|aim|skin|place|mesh|grow|gauge|flow)'],
  ['document'],
  ['evaluate'],
  ['checks'],
];
const inCore = rooms.flatMap((row, i) =>
  row.map((room) => ({
    name: `core-${room}`,
    severity: 'error',
    from: { path: `^packages/core/src/${room}` },
    to: {
      path: `^packages/core/src/(${[...row.filter((other) => other !== room), ...rooms.slice(i + 1).flat()].join('|') || 'index'})`,
      pathNot: `^packages/core/src/${room}`,
    },
  })),
);
/** Families do not look at each other: what several of them need is in `nodes/settings`. */
inCore.push({
  name: 'core-families',
  severity: 'error',
  from: { path: '^packages/core/src/nodes/(lay|pace|shape|aim|skin|place|mesh|grow|gauge|flow)/' },
  to: { path: '^packages/core/src/nodes/(lay|pace|shape|aim|skin|place|mesh|grow|gauge|flow)/', pathNot: '^packages/core/src/nodes/$1/' },
});

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
