import fc from 'fast-check';

// The same cases at every run, so that a red run can be repeated; FILAXIS_SEED=… looks at others.
fc.configureGlobal({ seed: Number(process.env['FILAXIS_SEED'] ?? 20261123) });
