/** Settings that many nodes have, to be spread where the help says something of its own. */
export const seedSetting = { kind: 'integer', label: 'Seed', help: 'Another seed, another draw.', default: 1, min: 0, max: 2_147_483_647 } as const;

/** One of the three axes. */
export const axisSetting = { kind: 'choice', label: 'Axis', help: 'One of the axes.', default: 'z', choices: { x: 'X', y: 'Y', z: 'Z' } } as const;

/** Where those axes run. */
export const axisWays = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const;
