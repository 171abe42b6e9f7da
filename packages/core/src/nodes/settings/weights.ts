import type { DataSetting } from '../../definition/settings.js';

/** Chances of several objects. */
export const weightsSetting: DataSetting<readonly number[]> = {
  kind: 'data',
  edit: 'shares',
  label: 'Shares',
  help: 'Chances of the objects, in the order of their wires; those not named have 1.',
  default: [],
  shownWhen: { pick: ['random'] },
  fault: (value) => {
    const good = Array.isArray(value) && value.every((n) => typeof n === 'number' && Number.isFinite(n) && n >= 0);
    return good ? null : { path: '', message: 'it is a list of numbers, 0 or more.' };
  },
};
