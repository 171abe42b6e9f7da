import type { DataSetting } from '../../definition/settings.js';
import { standingPlaces, type Standing } from '../../place/run/options.js';

/** An object that nothing is said of stands along the run. */
export const usualStanding: Standing = { along: true, joints: false, bends: false, first: false, last: false, ends: false, share: 1, length: 0 };

const places: readonly string[] = standingPlaces;

/** Where each object of a run stands: a row an object, in the order of their wires; those not named stand along. */
export const standsSetting: DataSetting<readonly Partial<Standing>[]> = {
  kind: 'data',
  edit: 'stands',
  label: 'Objects',
  help: 'Where each object stands: along the run; where pieces meet, free ends too; at corners; as the first or last piece, in its own length; after the last. Its share is how often it is taken among those that stand there; its length, m, is that of the piece (0: as for all).',
  default: [],
  fault: (value) => {
    if (!Array.isArray(value)) return { path: '', message: 'it is a list with an entry for each object.' };
    for (const [i, row] of (value as unknown[]).entries()) {
      if (typeof row !== 'object' || row === null) return { path: `/${i}`, message: `an entry has ${places.join(', ')} (true or false), share and length.` };
      for (const [key, each] of Object.entries(row)) {
        const isNumber = key === 'share' || key === 'length';
        const good = isNumber ? typeof each === 'number' && Number.isFinite(each) && each >= 0 : places.includes(key) && typeof each === 'boolean';
        if (!good)
          return {
            path: `/${i}/${key}`,
            message: `"${key}" is ${JSON.stringify(each)}; ${places.join(', ')} are true or false, and share and length are numbers, 0 or more.`,
          };
      }
    }
    return null;
  },
};
