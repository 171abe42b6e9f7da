import { curvesIn, meshOut } from '../../definition/ports.js';
import { curveCount } from '../../geometry/curves.js';
import { takeCurves } from '../../geometry/gather.js';
import { emptyMesh } from '../../geometry/mesh.js';
import { paced } from '../../curves/change/resample.js';
import { joinMeshes } from '../../geometry/join.js';
import { fill } from '../../skin/solid/fill.js';
import { loft } from '../../skin/loft/loft.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { corneredPath } from '../../definition/sample.js';
import { facingOf, facingSettings } from '../settings/facing.js';
import { pairedCount, unequalSetting } from '../settings/unequal.js';
import { uvSettings } from '../settings/uv.js';
import { looksJoined } from '../../gauge/pairing.js';
import { fillWarnings, joinedWarning, plainLoft } from './filling.js';

export default defineNode({
  type: 'skin.fill',
  label: 'Fill',
  family: families.skin,
  summary: 'Faces inside closed flat curves, with holes by nesting; or a strip between two outlines.',
  help: 'A place is filled where an odd number of the outlines in its plane are around it: an outline inside another is a hole, one inside a hole an island; outlines side by side are faces side by side. Faces look up; upright ones look to where their outline runs counter-clockwise. As a strip, each two curves in turn (first and second, third and fourth) are bridged point by point; different numbers of points are refused unless you choose otherwise. Open curves are left out with a warning.',
  keywords: ['cap', 'face', 'polygon', 'planar', 'hole', 'floor', 'strip', 'between'],
  asks: {
    'fill the outline': {},
    'a face inside the curve': {},
    'a strip between two curves': { as: 'strip' },
  },
  telling: ['as'],
  sample: { given: { curves: corneredPath } },
  inputs: [curvesIn],
  outputs: [meshOut],
  settings: {
    as: {
      kind: 'choice',
      label: 'As',
      help: 'Faces inside the outlines, or strips between each two.',
      default: 'faces',
      choices: { faces: 'faces', strip: 'strip between two' },
    },
    flip: { kind: 'boolean', label: 'Flip', help: 'Turns the faces over.', default: false },
    ...facingSettings,
    ...unequalSetting,
    ...uvSettings,
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const given = paced(input('curves'), context);
    if (settings.as === 'strip') {
      const pairs = Math.floor(curveCount(given) / 2);
      if (curveCount(given) % 2)
        warn({
          code: 'unequal-lists',
          curve: curveCount(given) - 1,
          message: `${curveCount(given)} curves make ${pairs} pairs; the last one has no partner.`,
          remedy: 'Give it one, or leave it out.',
        });
      if (looksJoined(given, 'pairs')) warn(joinedWarning('Strips bridge the first curve to the second and the third to the fourth'));
      const options = {
        ...plainLoft,
        flip: settings.flip,
        uvScale: settings.uvScale,
        unequal: (counts: Readonly<Record<string, number>>) => pairedCount(counts, settings.unequal),
      };
      const strips = Array.from({ length: pairs }, (_, i) => loft(takeCurves(given, [2 * i, 2 * i + 1]), options, context));
      return { mesh: strips.length ? joinMeshes(strips) : emptyMesh };
    }
    const { mesh, issues } = fill(given, { ...settings, facing: facingOf(settings) }, context);
    for (const issue of issues.slice(0, 50)) warn(fillWarnings[issue.reason](issue));
    return { mesh };
  },
});
