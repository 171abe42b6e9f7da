import { anyIn, anyOut } from '../../definition/ports.js';
import { figures, shapeFigures, type Figure } from '../../gauge/figures.js';
import { defineNode } from '../../definition/define.js';
import type { Settings } from '../../definition/settings.js';
import { families } from '../../definition/families.js';

const figureSettings = Object.fromEntries(
  Object.entries(figures).map(([name, { help }]) => [
    name,
    {
      kind: 'boolean',
      label: name === 's' ? 'Metres along (s)' : name === 't' ? 'Share of length (t)' : name[0].toUpperCase() + name.slice(1),
      help: `Writes ${name}: ${help}.`,
      default: ['length', 's', 't', 'curvature', 'area'].includes(name),
    },
  ]),
) as Settings;

export default defineNode({
  type: 'gauge.figures',
  label: 'Shape figures',
  family: families.gauge,
  summary: 'Writes length, place along, curvature, slope, area … as attributes.',
  help: 'Each figure becomes an attribute of its name, to be read by formulas and ramps, seen in colour and listed in Values. Figures that a geometry does not have are left out: faces have area and slope, curves the others.',
  attributes: { named: (settings) => Object.keys(figures).filter((name) => settings[name] === true) },
  keywords: ['measure', 'length', 'curvature', 'torsion', 'area', 'slope', 'info'],
  asks: {
    'measure the length': { length: true },
    'how much it bends': { curvature: true },
    'how steep': { slope: true },
    'area of faces': { area: true },
  },
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: figureSettings,
  run: (context) => {
    const values: Readonly<Record<string, unknown>> = context.settings;
    const wanted = new Set((Object.keys(figures) as Figure[]).filter((name) => values[name] === true));
    return { any: shapeFigures(context.input('any'), wanted, context) };
  },
});
