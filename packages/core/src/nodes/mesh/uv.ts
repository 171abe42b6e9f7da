import { meshIn, meshOut } from '../../definition/ports.js';
import { faceCount } from '../../geometry/mesh.js';
import { layUvs } from '../../mesh/change/uv.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { ball } from '../../definition/sample.js';

/** Values of the face attribute `part` that each choice takes. */
const parts: Readonly<Record<string, readonly number[]>> = { caps: [1, 2], walls: [0] };

export default defineNode({
  type: 'mesh.uv',
  label: 'UVs',
  family: families.mesh,
  summary: 'Moves, turns and sizes UVs, or lays them out anew: of all faces, the caps, the walls or marked ones.',
  help: 'Keep works on the UVs there are; planar lays them out as seen along an axis, box each face along the axis it looks along most, both in metres per tile. They are sized, then turned about the middle of the unit square, then moved. Another set name leaves the first set as it is and writes a second one, which glTF files carry too.',
  attributes: { reads: ['part', 'mark'], writes: ['uv'] },
  keywords: ['texture', 'unwrap', 'projection', 'planar', 'box', 'tile', 'mapping', 'cap'],
  asks: {
    'uvs by box': { layout: 'box' },
    'uvs from one side': { layout: 'planar' },
    'turn the texture': { turn: 90 },
    'repeat the texture more': { tile: 0.25 },
  },
  telling: ['layout', 'of'],
  sample: { settings: { layout: 'box' }, given: { mesh: ball } },
  usualAfter: { mesh: 4 },
  mends: {
    stretch: {
      label: 'Lay the walls out by box',
      settings: ({ uvScale }) => ({ of: 'walls', layout: 'box', ...(typeof uvScale === 'number' && uvScale > 0 && { tile: uvScale }) }),
    },
  },
  inputs: [meshIn],
  outputs: [meshOut],
  passes: true,
  where: 'none',
  settings: {
    of: { kind: 'choice', label: 'Of', help: 'Which faces.', default: 'all', choices: { all: 'all', caps: 'caps', walls: 'walls', marked: 'marked' } },
    layout: {
      kind: 'choice',
      label: 'Layout',
      help: 'Keep what there is, or lay out anew.',
      default: 'keep',
      choices: { keep: 'keep', planar: 'planar', box: 'box' },
    },
    axis: {
      kind: 'choice',
      label: 'Axis',
      help: 'Planar: the axis they are seen along.',
      default: 'y',
      choices: { x: 'X', y: 'Y', z: 'Z' },
      shownWhen: { layout: ['planar'] },
    },
    tile: {
      kind: 'number',
      label: 'Tile',
      help: 'Metres per UV tile.',
      default: 1,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.01,
      shownWhen: { layout: ['planar', 'box'] },
    },
    scale: { kind: 'vector', label: 'Scale', help: 'Factors on u and v.', default: [1, 1], step: 0.01 },
    turn: { kind: 'number', label: 'Turn', help: 'About the middle of the unit square.', default: 0, unit: '°', step: 1 },
    move: { kind: 'vector', label: 'Move', help: 'Added to u and v.', default: [0, 0], step: 0.01 },
    set: {
      kind: 'text',
      label: 'Set',
      help: 'The UV set that is written: uv, or another such as uv2.',
      default: 'uv',
      pattern: /^uv[2-9]?$/,
      accepts: 'uv, or uv2 to uv9',
    },
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const given = input('mesh');
    const count = faceCount(given);
    let faces = new Uint8Array(count).fill(1);
    if (settings.of === 'marked') {
      const mark = given.attributes.get('mark');
      if (mark?.carrier !== 'face') throw new RangeError('The mesh has no marked faces.');
      faces = Uint8Array.from(mark.data, (value) => (value ? 1 : 0));
    } else if (settings.of !== 'all') {
      const part = given.attributes.get('part')?.data;
      faces = Uint8Array.from({ length: count }, (_, f) => (parts[settings.of].includes(part?.[f] ?? 0) ? 1 : 0));
    }
    if (!faces.includes(1)) warn({ code: 'empty', message: `There are no ${settings.of} on this mesh, so nothing changed.`, remedy: 'Choose other faces.' });
    return { mesh: layUvs(given, { ...settings, faces, axis: 'xyz'.indexOf(settings.axis) }, context) };
  },
});
