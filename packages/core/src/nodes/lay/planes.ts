import { pointsOut } from '../../definition/ports.js';
import { perpendicular } from '../../curves/evaluate/transport.js';
import { defineNode } from '../../definition/define.js';
import type { DataSetting } from '../../definition/settings.js';
import { families } from '../../definition/families.js';
import { post } from '../../definition/sample.js';
import type { Attribute } from '../../geometry/attributes.js';
import { makePoints } from '../../geometry/points.js';
import { isPlace } from './drawnFault.js';

/** A plane drawn by hand: a place on it, and which way it looks. */
export interface DrawnPlane {
  readonly point: readonly [number, number, number];
  readonly normal: readonly [number, number, number];
}

const planesSetting: DataSetting<readonly DrawnPlane[]> = {
  kind: 'data',
  edit: 'planes',
  label: 'Planes',
  help: 'In their order: drawn over the body in the 3D view, moved by their knobs or their numbers.',
  default: [],
  fault: (value) => {
    if (!Array.isArray(value)) return { path: '', message: 'This must be a list of planes.' };
    for (const [i, plane] of value.entries()) {
      const { point, normal, ...rest } = (typeof plane === 'object' && plane !== null ? plane : {}) as Partial<DrawnPlane>;
      if (Object.keys(rest).length) return { path: `/${i}/${Object.keys(rest)[0]}`, message: `plane ${i} has a point and a normal, and nothing else.` };
      if (!isPlace(point)) return { path: `/${i}/point`, message: `the point of plane ${i} is ${JSON.stringify(point)}; it is three finite numbers.` };
      if (!isPlace(normal) || normal!.every((n) => n === 0))
        return { path: `/${i}/normal`, message: `the normal of plane ${i} is ${JSON.stringify(normal)}; it is three finite numbers that are not all 0.` };
    }
    return null;
  },
};

export default defineNode({
  type: 'lay.planes',
  label: 'Drawn planes',
  family: families.lay,
  summary: 'Planes drawn by hand over a body, as points with normals: for Section by planes.',
  help: 'Drag a line over the body in the 3D view: the plane goes through the line and away from the eye, as a knife would cut. Go on with the next; Esc ends. A knob in its middle moves it, one at the end of its arrow turns it. Each plane is a point with the normal that it looks along, in the order in which they were drawn, which is the order in which ropes lie over each other.',
  attributes: { writes: ['normal', 'tangent'] },
  keywords: ['cutting plane', 'knife', 'slice', 'cut', 'wrap', 'section', 'draw'],
  asks: {
    'draw planes that cut a body': {},
    'wrap a rope where I draw': {},
  },
  telling: ['planes'],
  sample: {
    settings: {
      planes: [
        { point: [0, 0.1, 0], normal: [0, 1, 0.4] },
        { point: [0, -0.1, 0], normal: [0.3, 1, 0] },
      ],
    },
    given: { mesh: post },
    shownBy: (planes) => ({ type: 'mesh.section', given: { mesh: post, planes } }),
  },
  role: 'drawing',
  inputs: [{ name: 'mesh', kinds: ['mesh'], optional: true }],
  outputs: [pointsOut],
  settings: { planes: planesSetting },
  run: ({ settings, claim }) => {
    const { planes } = settings;
    claim({ points: planes.length });
    const unit = (vector: readonly number[]): number[] => vector.map((value) => value / Math.hypot(...vector));
    const of = (list: readonly (readonly number[])[]): Attribute => ({ carrier: 'point', size: 3, data: Float32Array.from(list.flat()) });
    const normals = planes.map(({ normal }) => unit(normal));
    const across = ([x, y, z]: readonly number[]): number[] => {
      const tangent = new Float64Array(3);
      perpendicular([0, 1, 0], x, y, z, tangent, 0);
      return [...tangent];
    };
    const attributes = new Map([['normal', of(normals)], ['tangent', of(normals.map(across))]]); // prettier-ignore
    return { points: makePoints(Float32Array.from(planes.flatMap(({ point }) => [...point])), attributes) };
  },
});
