import { curvesFromLists } from '../../geometry/curves.js';
import { box, grid, icosphere, ringSphere, terrain } from '../../mesh/bodies.js';
import { plainCaps } from '../../skin/capUv.js';
import { tube } from '../../skin/tube.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';
import { capsSetting, uvSettings } from '../skin/shared.js';

/** Bodies for curves to lie on, run round and be cut from. */

const meshOut = [{ name: 'mesh', kind: 'mesh' }] as const;
const tileSetting = { ...uvSettings.uvScale, help: 'Metres per UV tile; 0 fits 0…1 over each side.' } as const;
const two = (value: number | readonly [number, number]): readonly [number, number] => (typeof value === 'number' ? [value, value] : value);

export const boxNode = defineNode({
  type: 'lay.box',
  label: 'Box',
  family: families.lay,
  summary: 'A box about the origin.',
  help: 'Gives a closed box with its middle in the origin, each side divided into as many squares both ways as you ask. Each side has UVs of its own, from 0 to 1 or in metres per tile. A beam is a long box, turned by Transform.',
  attributes: { writes: ['normal', 'uv'] },
  keywords: ['cube', 'beam', 'block', 'body', 'crate', 'post'],
  outputs: meshOut,
  settings: {
    size: { kind: 'vector', label: 'Size', help: 'From side to side along x, y and z.', default: [1, 1, 1], unit: 'm', step: 0.01 },
    divisions: { kind: 'integer', label: 'Divisions', help: 'Squares along each edge.', default: 1, min: 1, max: 1000 },
    uvScale: tileSetting,
  },
  run: (context) => {
    const { size, divisions, uvScale } = context.settings;
    requireExtent(size);
    context.claim({ faces: 6 * divisions ** 2, vertices: 6 * divisions ** 2 + 2 });
    return { mesh: box(size, divisions, uvScale, context) };
  },
});

export const sphereNode = defineNode({
  type: 'lay.sphere',
  label: 'Sphere',
  family: families.lay,
  summary: 'A sphere about the origin, of even triangles or of rings.',
  help: 'Even triangles: an icosahedron whose edges are divided into so many pieces, all triangles of nearly one size; good to lay and scatter on. Rings: twice as many rings as divisions and four times as many sides, with poles above and below; good for textures. Points lie on the sphere, so faces lie a little inside it.',
  attributes: { writes: ['normal', 'uv', 'part'] },
  keywords: ['ball', 'globe', 'float', 'buoy', 'body', 'round'],
  outputs: meshOut,
  settings: {
    radius: { kind: 'number', label: 'Radius', help: 'From the middle to the points.', default: 1, min: 0, above: true, unit: 'm', step: 0.005 },
    kind: { kind: 'choice', label: 'Kind', help: 'How it is divided.', default: 'icosphere', choices: { icosphere: 'even triangles', rings: 'rings' } },
    divisions: {
      kind: 'integer',
      label: 'Divisions',
      help: 'Pieces of each edge of the icosahedron, or rings from pole to equator.',
      default: 4,
      min: 2,
      max: 512,
    },
  },
  run: (context) => {
    const { radius, kind, divisions } = context.settings;
    const faces = kind === 'icosphere' ? 20 * divisions ** 2 : 8 * divisions ** 2;
    context.claim({ faces, vertices: kind === 'icosphere' ? faces / 2 + 2 : faces });
    return { mesh: kind === 'icosphere' ? icosphere(radius, divisions, context) : ringSphere(radius, divisions, context) };
  },
});

export const cylinderNode = defineNode({
  type: 'lay.cylinder',
  label: 'Cylinder',
  family: families.lay,
  summary: 'An upright cylinder or cone about the origin.',
  help: 'Stands along y with its middle in the origin. Another radius at the top makes a cone or a tapered post; 0 there closes it on a point. It is laid out as tubes are: u around, v along, caps flat and by themselves.',
  attributes: { writes: ['normal', 'uv', 'part'] },
  keywords: ['cone', 'post', 'pole', 'bollard', 'drum', 'body', 'round'],
  outputs: meshOut,
  settings: {
    radius: { kind: 'number', label: 'Radius', help: 'At the foot.', default: 0.5, min: 0, above: true, unit: 'm', step: 0.005 },
    radiusTop: { kind: 'number', label: 'Radius at top', help: '0 is a point; below 0 it is the radius at the foot.', default: -1, unit: 'm', step: 0.005 },
    height: { kind: 'number', label: 'Height', help: 'From foot to top.', default: 2, min: 0, above: true, unit: 'm', step: 0.01 },
    sides: { kind: 'integer', label: 'Sides', help: 'Corners of the section.', default: 24, min: 3, max: 4096 },
    caps: { ...capsSetting, default: 'flat', help: 'How foot and top are closed.' },
  },
  run: (context) => {
    const { radius, radiusTop, height, sides, caps } = context.settings;
    const line = curvesFromLists([[[0, -height / 2, 0], [0, height / 2, 0]]]); // prettier-ignore
    const values = Float64Array.of(radius, radiusTop < 0 ? radius : radiusTop);
    const options = { ...plainCaps, radius: { constant: 0, values }, sides, caps, corners: 'asIs', uvScale: 0, ringStep: 1 } as const;
    return { mesh: tube(line, options, context).mesh };
  },
});

const divisionsSetting = {
  kind: 'integer',
  label: 'Divisions',
  help: 'Squares along each side, or [x, z].',
  min: 1,
  max: 10_000,
  pair: true,
  axes: ['x', 'z'],
} as const;

export const gridNode = defineNode({
  type: 'lay.grid',
  label: 'Grid',
  family: families.lay,
  summary: 'A level grid about the origin that looks up.',
  help: 'Gives a flat sheet of squares in the plane of x and z. UVs run from 0 to 1 or in metres per tile, u along x and v away from you. Displace makes it uneven.',
  attributes: { writes: ['normal', 'uv'] },
  keywords: ['plane', 'floor', 'sheet', 'ground', 'body', 'deck'],
  outputs: meshOut,
  settings: {
    size: { kind: 'vector', label: 'Size', help: 'From side to side along x and z.', default: [1, 1], axes: ['x', 'z'], unit: 'm', step: 0.01 },
    divisions: { ...divisionsSetting, default: 10 },
    uvScale: tileSetting,
  },
  run: (context) => {
    const { settings, claim } = context;
    const [nx, nz] = two(settings.divisions);
    requireExtent(settings.size);
    claim({ faces: nx * nz, vertices: (nx + 1) * (nz + 1) });
    return { mesh: grid(settings.size, [nx, nz], settings.uvScale, context) };
  },
});

export const terrainNode = defineNode({
  type: 'lay.terrain',
  label: 'Terrain',
  family: families.lay,
  summary: 'Ground with hills, to lay paths and fences over.',
  help: 'A grid whose heights are fractal noise: broad hills, about three across the ground, with finer ones on them. Roughness says how much the finer ones count: 0 leaves the broad ones alone. The heights lie about 0, no further apart than the height. The same seed gives the same ground on every machine.',
  attributes: { writes: ['normal', 'uv'] },
  keywords: ['ground', 'land', 'hills', 'landscape', 'relief', 'height', 'body'],
  outputs: meshOut,
  settings: {
    size: { kind: 'vector', label: 'Size', help: 'From side to side along x and z.', default: [200, 200], axes: ['x', 'z'], unit: 'm', step: 1 },
    divisions: { ...divisionsSetting, default: 200 },
    height: { kind: 'number', label: 'Height', help: 'From the lowest to the highest place at most.', default: 12, min: 0, unit: 'm', step: 0.1 },
    seed: { kind: 'integer', label: 'Seed', help: 'Another number is another ground.', default: 1, min: 0, max: 2_147_483_647 },
    roughness: { kind: 'number', label: 'Roughness', help: 'How high hills half as wide are.', default: 0.45, min: 0, max: 1, step: 0.01 },
    uvScale: tileSetting,
  },
  run: (context) => {
    const { settings, claim } = context;
    const [nx, nz] = two(settings.divisions);
    requireExtent(settings.size);
    claim({ faces: nx * nz, vertices: (nx + 1) * (nz + 1) });
    return { mesh: terrain({ ...settings, divisions: [nx, nz] }, context) };
  },
});

/** @throws RangeError naming the axis along which a body would have no extent. */
function requireExtent(size: readonly number[]): void {
  const names = size.length === 2 ? 'xz' : 'xyz';
  const flat = size.findIndex((value) => !(value > 0));
  if (flat >= 0) throw new RangeError(`Size is ${size[flat]} m along ${names[flat]}; it must be more than 0.`);
}
