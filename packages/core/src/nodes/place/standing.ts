import type { DataSetting } from '../../definition/settings.js';

/** Where an object of a run stands, and how often against the others that stand there. */
export interface Standing {
  readonly along: boolean;
  readonly bends: boolean;
  readonly ends: boolean;
  readonly share: number;
}

/** An object that nothing is said of stands along the run. */
export const usualStanding: Standing = { along: true, bends: false, ends: false, share: 1 };

/** Where each object of a run stands: a row an object, in the order of their wires; those not named stand along. */
export const standsSetting: DataSetting<readonly Partial<Standing>[]> = {
  kind: 'data',
  edit: 'stands',
  label: 'Objects',
  help: 'Where each object stands: along the run, at its bends besides, at the ends of open curves besides; and its share among those that stand there.',
  default: [],
  fault: (value) => {
    if (!Array.isArray(value)) return { path: '', message: 'it is a list with an entry for each object.' };
    for (const [i, row] of (value as unknown[]).entries()) {
      if (typeof row !== 'object' || row === null) return { path: `/${i}`, message: 'an entry has along, bends, ends (true or false) and share.' };
      for (const [key, each] of Object.entries(row)) {
        const good =
          key === 'share'
            ? typeof each === 'number' && Number.isFinite(each) && each >= 0
            : ['along', 'bends', 'ends'].includes(key) && typeof each === 'boolean';
        if (!good)
          return {
            path: `/${i}/${key}`,
            message: `"${key}" is ${JSON.stringify(each)}; along, bends and ends are true or false, and share is a number, 0 or more.`,
          };
      }
    }
    return null;
  },
};
