import { axisSetting } from '../settings/common.js';
import { defineNode, type WarningCode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { curvesIn, meshIn, meshOut } from '../../definition/ports.js';
import { bendAlong, type BendIssue } from '../../shape/bend.js';

const troubles: Readonly<Record<BendIssue['code'], readonly [code: WarningCode, message: string, remedy: string]>> = {
  'no-length': ['degenerate', 'has no length, so nothing is bent along it', 'Give it two different points.'],
  folds: ['pinch', 'bends more sharply than the mesh is wide, which folds over itself there', 'Widen the bend, or make the mesh thinner on its inner side.'],
  beyond: ['degenerate', 'is shorter than the mesh, whose rest lies at its end', 'Stretch it, or give it a longer curve.'],
};

export default defineNode({
  type: 'shape.bend',
  label: 'Bend along curve',
  family: families.shape,
  summary: 'Bends a mesh along each curve.',
  help: 'What lies along one of the mesh’s own axes comes to lie along the curve; what lies beside that axis keeps its distance, in the frames of the curve (orient them first where it matters). Stretch lays it once over the whole curve, Repeat as often as comes nearest to its own length, Keep once as long as it is. The mesh needs points where it is to bend: give it enough divisions along the axis. Where a bend is sharper than the mesh is wide, it folds over itself, and that is said. UVs, materials and values stay with their vertices and faces.',
  keywords: ['deform', 'follow', 'wrap', 'along', 'along a course', 'warp', 'repeat'],
  asks: {
    'bend a mesh along a curve': {},
    'repeat a mesh along a curve': { fit: 'repeat' },
  },
  attributes: { reads: ['tangent', 'normal'], writes: ['normal'], keeps: ['point', 'corner', 'face', 'whole'] },
  telling: ['fit', 'axis'],
  sample: { given: { mesh: { type: 'lay.box', settings: { size: [0.15, 0.15, 2], divisions: 12 } } } },
  inputs: [meshIn, curvesIn],
  outputs: [meshOut],
  settings: {
    axis: { ...axisSetting, label: 'Along', help: 'The own axis of the mesh that runs along the curve.' },
    fit: {
      kind: 'choice',
      label: 'Fit',
      help: 'How the mesh fills the length of the curve.',
      default: 'stretch',
      choices: { stretch: 'stretch', repeat: 'repeat', keep: 'keep its length' },
    },
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const axis = 'xyz'.indexOf(settings.axis) as 0 | 1 | 2;
    const { mesh, issues } = bendAlong(input('mesh'), input('curves'), { axis, fit: settings.fit }, context);
    for (const { code, curve, at } of issues) {
      const [warning, message, remedy] = troubles[code];
      warn({ code: warning, message: `Curve ${curve + 1} ${message}${code === 'folds' ? ` (at ${at.toFixed(2)} m)` : ''}.`, remedy, curve, at });
    }
    return { mesh };
  },
});
