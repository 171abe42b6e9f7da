import { anyOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { smoothCurves, smoothMesh } from '../../shape/smooth.js';
import { families } from '../../definition/families.js';
import { corneredPath } from '../../definition/sample.js';

export default defineNode({
  type: 'shape.smooth',
  label: 'Smooth',
  family: families.shape,
  summary: 'Evens out bumps in curves or meshes.',
  help: 'Moves every point toward the middle of its neighbours, so often: each time by its distance from there times the strength, at most. At the defaults a curve whose points are close together keeps its shape: of a drawn path resampled every 50 mm less than a hundredth of the length goes. Keep size takes the shrinking back (Taubin 1995). The ends of open curves and the border of open meshes stay where they are, unless you let them go. Normals of meshes are found anew; seams stay shut.',
  attributes: { drops: ['tangent', 'handleIn', 'handleOut'] },
  keywords: ['laplacian', 'soften', 'average', 'relax', 'even', 'blur'],
  asks: {
    'smooth it': {},
    'much smoother': { times: 20 },
    'smooth without shrinking': { keepSize: true },
  },
  telling: ['times'],
  sample: { given: { any: corneredPath } },
  inputs: [{ name: 'any', kinds: ['curves', 'mesh'], aliases: ['curves', 'mesh'] }],
  outputs: [{ ...anyOut, aliases: ['curves', 'mesh'] }],
  passes: true,
  where: 'point',
  settings: {
    times: { kind: 'integer', label: 'Times', help: 'How often.', default: 1, min: 0, max: 10_000 },
    strength: { kind: 'number', label: 'Strength', help: 'How far each point goes toward the middle, each time.', default: 0.5, min: 0, max: 1, step: 0.005 },
    keepEnds: { kind: 'boolean', label: 'Keep ends', help: 'Ends and borders stay where they are.', default: true },
    keepSize: { kind: 'boolean', label: 'Keep size', help: 'Does not shrink the whole.', default: false },
  },
  run: (context) => {
    const given = context.input('any');
    if (given.type === 'mesh') return { any: smoothMesh(given, context.settings, context) };
    return { any: given.type === 'curves' ? smoothCurves(given, context.settings, context) : given };
  },
});
