import { meshOut } from '../../definition/ports.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import { takeCurves } from '../../geometry/gather.js';
import { emptyMesh, type Mesh } from '../../geometry/mesh.js';
import { framesOf } from '../../curves/evaluate/frames.js';
import type { Facing } from '../../curves/evaluate/plane.js';
import { paced } from '../../curves/change/resample.js';
import { throughMoved } from '../../curves/evaluate/knots.js';
import { joinCurves, joinMeshes } from '../../geometry/join.js';
import { extrude, type ExtrudeOptions } from '../../skin/solid/extrude.js';
import { fill } from '../../skin/solid/fill.js';
import { loft } from '../../skin/loft/loft.js';
import { defineNode, type Warning } from '../../definition/define.js';
import type { Work } from '../../base/work.js';
import { fieldAt, type Field } from '../../values/field.js';
import { shareOf } from '../../varying/share.js';
import { families } from '../../definition/families.js';
import { corneredPath } from '../../definition/sample.js';
import { facingOf, facingSettings } from '../settings/facing.js';
import { uvSettings } from '../settings/uv.js';
import { plainLoft, fillWarnings } from './filling.js';

export default defineNode({
  type: 'skin.extrude',
  label: 'Extrude',
  family: families.skin,
  summary: 'Gives faces or closed outlines a thickness, and open curves a height.',
  help: 'Takes a mesh, curves, or both. Faces are moved by the distance along their normals or an axis, and closed in by a rim over their border and the faces they came from; each of the three can be left out. Closed flat curves are filled first; open ones become a sheet. Both ways puts half of the distance on each side. Faces keep their UVs and materials; the rim has u along the border and v across.',
  attributes: { reads: ['normal'], writes: ['normal', 'uv', 'part'] },
  keywords: ['thickness', 'thicken', 'shell', 'height', 'wall', 'slab', 'plate'],
  asks: {
    'give it depth': {},
    'pull it up': { direction: 'axis', axis: [0, 1, 0] },
    'thicken both ways': { towards: 'bothWays' },
  },
  telling: ['distance'],
  sample: { given: { curves: corneredPath } },
  usualAfter: { mesh: 6 },
  handles: [{ kind: 'direction', setting: 'axis', at: ['middle'] }],
  inputs: [
    { name: 'mesh', kinds: ['mesh'], optional: true },
    { name: 'curves', kinds: ['curves'], optional: true },
  ],
  outputs: [meshOut],
  settings: {
    distance: { kind: 'number', label: 'Distance', help: 'How thick, or how high.', default: 0.1, unit: 'm', step: 0.002, varies: 'point' },
    direction: {
      kind: 'choice',
      label: 'Direction',
      help: 'Along the normals of the faces (or of a curve’s frames), or along one axis.',
      default: 'normal',
      choices: { normal: 'normal', axis: 'axis' },
    },
    axis: { kind: 'vector', label: 'Axis', help: 'The way they go.', default: [0, 1, 0], direction: true, shownWhen: { direction: ['axis'] } },
    towards: {
      kind: 'choice',
      label: 'Towards',
      help: 'From the given faces onwards, or half to each side.',
      default: 'oneWay',
      choices: { oneWay: 'one way', bothWays: 'both ways' },
    },
    capStart: { kind: 'boolean', label: 'Given side', help: 'Makes the faces it began with, turned over.', default: true },
    capEnd: { kind: 'boolean', label: 'Far side', help: 'Makes the moved faces.', default: true },
    wall: { kind: 'boolean', label: 'Rim', help: 'Makes the faces over the border.', default: true },
    wallRows: { kind: 'integer', label: 'Rim rows', help: 'Faces of the rim from the given side to the far one.', default: 1, min: 1, max: 10_000 },
    wallShape: {
      kind: 'number',
      label: 'Rim outline',
      help: 'How far the rim stands out; a ramp from the given side (0) to the far one (1) shapes it. Needs two rows or more.',
      default: 0,
      unit: 'm',
      step: 0.002,
      varies: 'point',
    },
    ...facingSettings,
    ...uvSettings,
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const mesh = input('mesh');
    const curves = input('curves');
    if (!mesh && !curves) warn({ code: 'empty', message: 'Waiting for a mesh or curves.', remedy: 'Wire one of them to it.' });
    const size = Math.hypot(...settings.axis);
    const axis = settings.direction === 'axis' ? (settings.axis.map((value) => value / size) as [number, number, number]) : null;
    const options = { ...settings, axis, facing: facingOf(settings), wallShape: shareOf(settings.wallShape, field) };
    const made: Mesh[] = [];
    if (mesh) made.push(extrude(mesh, { ...options, distance: field(settings.distance, mesh, 'point') }, context));
    if (curves) {
      const given = paced(curves, context);
      const closed = Array.from({ length: curveCount(given) }, (_, c) => c).filter((c) => given.closed[c]);
      const open = Array.from({ length: curveCount(given) }, (_, c) => c).filter((c) => !given.closed[c]);
      if (closed.length) made.push(extrudeOutlines(takeCurves(given, closed), options, (on) => field(settings.distance, on, 'point'), context, warn));
      if (open.length) made.push(...sheets(takeCurves(given, open), options, (on) => field(settings.distance, on, 'point'), context));
    }
    const filled = made.filter((each) => each.corners.length);
    if (!filled.length && (mesh || curves))
      warn({
        code: 'degenerate',
        message: 'What came in has no extent, so there is nothing to extrude.',
        remedy: 'Give it two different points, or a face with an area.',
      });
    return { mesh: filled.length ? joinMeshes(filled) : emptyMesh };
  },
});

type Shape = Omit<ExtrudeOptions, 'distance'> & { readonly facing: Facing };

/** Closed outlines filled and given a thickness; a distance that varies does so over the places of the filled faces. */
function extrudeOutlines(curves: Curves, options: Shape, distanceOn: (on: Mesh) => Field, work: Work, warn: (warning: Warning) => void): Mesh {
  const { mesh, issues } = fill(curves, { uvScale: options.uvScale, flip: false, facing: options.facing }, work);
  for (const issue of issues.slice(0, 50)) warn(fillWarnings[issue.reason](issue));
  return mesh.corners.length ? extrude(mesh, { ...options, distance: distanceOn(mesh) }, work) : mesh;
}

/** Open curves as sheets from where they are to where they go. */
function sheets(curves: Curves, options: Shape, distanceOn: (on: Curves) => Field, work: Work): Mesh[] {
  const distance = distanceOn(curves);
  const normal = options.axis ? null : framesOf(curves).normal;
  const way = new Float32Array(curves.positions.length);
  for (let i = 0; i < way.length; i++) way[i] = (options.axis ? options.axis[i % 3] : normal![i]) * fieldAt(distance, (i / 3) | 0);
  const shifted = (given: Curves, share: number): Curves =>
    throughMoved(
      given,
      given.positions.map((value, i) => value + share * way[i]),
    );
  const from = options.towards === 'bothWays' ? shifted(curves, -0.5) : throughMoved(curves);
  const to = shifted(from, 1);
  return Array.from({ length: curveCount(curves) }, (_, c) => c)
    .filter((c) => curves.starts[c + 1] - curves.starts[c] > 1)
    .map((c) => {
      return loft(
        joinCurves([takeCurves(from, [c]), takeCurves(to, [c])]),
        { ...plainLoft, matchDirection: false, across: options.wallRows - 1, uvScale: options.uvScale, unequal: () => 0 },
        work,
      );
    });
}
