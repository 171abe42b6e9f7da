import { meshOut } from '../../definition/ports.js';
import { expandCopies, expandedSize } from '../../geometry/expand.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'place.expand',
  label: 'Turn copies into mesh',
  family: families.place,
  summary: 'All copies as one mesh, each with faces of its own.',
  help: 'Writes every copy out where it stands, so that its faces can be changed, counted, cut and exported one by one. Sheared copies, such as the leaning pieces of an upright run, become meshes of their own in glTF by themselves. It takes as much memory as it has faces: leave copies as they are where nothing asks for more.',
  attributes: { keeps: ['corner', 'face'] },
  keywords: ['write out', 'expand', 'flatten', 'one mesh', 'merge'],
  asks: {
    'make copies real': {},
    'one mesh of all copies': {},
  },
  inputs: [{ name: 'copies', kinds: ['copies'] }],
  outputs: [meshOut],
  settings: {},
  run: ({ input, claim }) => {
    const given = input('copies');
    claim(expandedSize(given));
    return { mesh: expandCopies(given) };
  },
});
