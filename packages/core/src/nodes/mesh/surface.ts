import { faceCount } from '../../geometry/mesh.js';
import { consistentFaces, facetedNormals, flipFaces, smoothNormals, splitNormals } from '../../mesh/normals.js';
import { layUvs } from '../../mesh/uv.js';
import { weldPoints, withoutFolded } from '../../mesh/weld.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';

export const normals = defineNode({
  type: 'mesh.normals',
  label: 'Normals',
  family: families.mesh,
  summary: 'Flat, smooth, or smooth with edges; turned over or made to agree.',
  help: 'Faceted gives each face its own flat shading; continuous shades smoothly over everything; split keeps edges where faces meet at more than the angle. Make consistent first turns faces so that neighbours wind alike and closed parts face outwards; flip turns everything over.',
  attributes: { writes: ['normal'] },
  keywords: ['shading', 'smooth', 'flat', 'flip', 'inside out', 'edges', 'crease', 'orientation'],
  inputs: [{ name: 'mesh', kinds: ['mesh'] }],
  outputs: [{ name: 'mesh', kind: 'mesh' }],
  passes: true,
  where: 'none',
  settings: {
    style: {
      kind: 'choice',
      label: 'Style',
      help: 'How light runs over edges.',
      default: 'split',
      choices: { faceted: 'faceted', continuous: 'continuous', split: 'split at edges', keep: 'as they are' },
      aliases: { splitWhereTheAngleExceedsAngle: 'split' },
    },
    angle: {
      kind: 'number',
      label: 'Angle',
      help: 'Faces that meet at more than this have an edge.',
      default: 30,
      min: 0,
      max: 180,
      unit: '°',
      step: 1,
      shownWhen: { style: ['split'] },
    },
    consistent: { kind: 'boolean', label: 'Make consistent', help: 'Neighbours wind alike; closed parts face outwards.', default: false },
    flip: { kind: 'boolean', label: 'Flip', help: 'Turns all faces over.', default: false },
  },
  run: (context) => {
    const { settings, mesh } = context;
    const agreed = settings.consistent ? consistentFaces(mesh('mesh'), context) : mesh('mesh');
    const turned = settings.flip ? flipFaces(agreed) : agreed;
    if (settings.style === 'keep') return { mesh: turned };
    if (settings.style === 'faceted') return { mesh: facetedNormals(turned, context) };
    return { mesh: settings.style === 'continuous' ? smoothNormals(turned, context) : splitNormals(turned, settings.angle, context) };
  },
});

export const weld = defineNode({
  type: 'mesh.weld',
  label: 'Weld',
  family: families.mesh,
  summary: 'Makes points that lie on each other one point, and takes away faces that fold up by it.',
  help: 'Points within the distance of each other become one, at the place of the first; chains of near points become one too. Seams of UVs and normals stay. Faces that are left with fewer than three points, or had no area before, go. Use it where parts should join, or to clean up what another program left.',
  keywords: ['merge', 'join', 'doubles', 'duplicate', 'clean', 'degenerate', 'stitch'],
  inputs: [{ name: 'any', kinds: ['mesh'], aliases: ['mesh'] }],
  outputs: [{ name: 'any', kind: 'mesh', aliases: ['mesh'] }],
  passes: true,
  where: 'none',
  settings: {
    distance: {
      kind: 'number',
      label: 'Distance',
      help: 'Points this near become one; 0 takes those at the very same place.',
      default: 0.0001,
      min: 0,
      unit: 'm',
      step: 0.0001,
    },
  },
  run: (context) => ({ any: withoutFolded(weldPoints(context.mesh('any'), context.settings.distance, context)) }),
});

/** Values of the face attribute `part` that each choice takes. */
const parts: Readonly<Record<string, readonly number[]>> = { caps: [1, 2], walls: [0] };

export const uv = defineNode({
  type: 'mesh.uv',
  label: 'UVs',
  family: families.mesh,
  summary: 'Moves, turns and sizes UVs, or lays them out anew: of all faces, the caps, the walls or marked ones.',
  help: 'Keep works on the UVs there are; planar lays them out as seen along an axis, box each face along the axis it looks along most, both in metres per tile. They are sized, then turned about the middle of the unit square, then moved. Another set name leaves the first set as it is and writes a second one, which glTF files carry too.',
  attributes: { reads: ['part', 'mark'], writes: ['uv'] },
  keywords: ['texture', 'unwrap', 'projection', 'planar', 'box', 'tile', 'mapping', 'cap'],
  inputs: [{ name: 'mesh', kinds: ['mesh'] }],
  outputs: [{ name: 'mesh', kind: 'mesh' }],
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
  run: ({ settings, mesh, warn }) => {
    const given = mesh('mesh');
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
    return { mesh: layUvs(given, { ...settings, faces, axis: 'xyz'.indexOf(settings.axis) }) };
  },
});
