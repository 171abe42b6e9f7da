import { weldPoints, withoutFolded } from '../../mesh/change/weld.js';
import { weldCurves } from '../../mesh/change/weldCurves.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { joined, moved } from '../../definition/sample.js';

export default defineNode({
  type: 'mesh.weld',
  label: 'Weld',
  family: families.mesh,
  summary: 'Makes points that lie on each other one point: of a mesh, without faces that fold up by it; of curves, as one network.',
  help: 'Points within the distance of each other become one, at the place of the first; chains of near points become one too. Seams of UVs and normals stay. Faces that are left with fewer than three points, or had no area before, go. Use it where parts should join, or to clean up what another program left. Curves become one network: what lies on each other is there once, and curves run from fork to fork.',
  keywords: ['merge', 'join', 'repeated points', 'duplicate', 'clean', 'degenerate', 'stitch'],
  asks: {
    'merge close points': {},
    'close cracks': { distance: 0.001 },
    'curves as one network without doubles': { distance: 0.001 },
  },
  telling: ['distance'],
  sample: { given: { any: joined({ type: 'lay.grid' }, moved({ type: 'lay.grid' }, 1, 0, 0)) } },
  mends: {
    double: { label: 'Weld them', settings: () => ({ distance: 0 }) },
    degenerate: { label: 'Take them away', settings: () => ({ distance: 0 }) },
  },
  attributes: { drops: ['tangent', 'normal', 'handleIn', 'handleOut', 'parent'] },
  inputs: [{ name: 'any', kinds: ['mesh', 'curves'], aliases: ['mesh'] }],
  outputs: [{ name: 'any', kind: 'any', follows: 'any', aliases: ['mesh'] }],
  passes: true,
  where: 'none',
  settings: {
    distance: {
      kind: 'number',
      label: 'Distance',
      help: 'Points this near become one; at 0 those at the very same place.',
      default: 0.0001,
      min: 0,
      unit: 'm',
      step: 0.0001,
    },
  },
  run: (context) => {
    const given = context.input('any');
    const { distance } = context.settings;
    return { any: given.type === 'curves' ? weldCurves(given, distance, context) : withoutFolded(weldPoints(given, distance, context)) };
  },
});
