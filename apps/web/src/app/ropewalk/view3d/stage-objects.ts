import {
  BufferAttribute,
  BufferGeometry,
  Color,
  ConeGeometry,
  CylinderGeometry,
  DoubleSide,
  InstancedMesh,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  Points,
  PointsMaterial,
  Vector3,
  type Object3D,
} from 'three';
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import type { CurvesPicture, GhostPicture } from '@filaxis/protocol';
import { wideLines } from './lines';

/** Colours that the stage is drawn in, as CSS has them. */
export interface StageInks {
  readonly grid: string;
  readonly gridMain: string;
  readonly wire: string;
  readonly curve: string;
  readonly side: string;
  readonly normal: string;
  readonly tangent: string;
  /** Backs of faces. */
  readonly back: string;
  /** Edges and outlines, and the paper that they are drawn on. */
  readonly pen: string;
  readonly paper: string;
  /** What is chosen, and what the pointer is over. */
  readonly chosen: string;
  readonly hovered: string;
  /** The rods along the axes of the floor. */
  readonly rod: string;
}

/** The colours as they are where an element stands. */
export function inksOf(element: Element): StageInks {
  const style = getComputedStyle(element);
  const ink = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  return {
    grid: ink('seam'),
    gridMain: ink('tag-edge'),
    wire: ink('indigo'),
    curve: ink('woad'),
    side: ink('madder'),
    normal: ink('verdigris'),
    tangent: ink('woad'),
    back: ink('madder'),
    pen: ink('indigo'),
    paper: ink('sky-low'),
    chosen: ink('indigo'),
    hovered: ink('woad'),
    rod: ink('slate'),
  };
}

/** What the stage is furnished with, made from pictures: curves, ghosts, frames. */

/** Most points whose frames are drawn; beyond, every n-th is taken. */
const mostFrames = 4000;

/** Curves and their points, seen through everything; with `colours` (a colour an end of the lines) in those. */
export function curveObjects(picture: CurvesPicture, colours: Float32Array | null, ink: string, width: number): Object3D[] {
  const drawn = wideLines(picture.lines, { ink, width, opacity: 0.9, through: true, colours });
  drawn.name = 'curves';
  drawn.renderOrder = 2;
  const points = new BufferGeometry();
  points.setAttribute('position', new BufferAttribute(picture.points, 3));
  const dots = new Points(points, new PointsMaterial({ color: ink, size: width + 2.5, sizeAttenuation: false, depthTest: false, transparent: true }));
  dots.name = 'points';
  dots.renderOrder = 2;
  return [drawn, dots];
}

/** Another result, faint and flat, that hides nothing. */
export function ghostObjects({ positions, indices, lines }: GhostPicture, ink: string, width: number): Object3D[] {
  const objects: Object3D[] = [];
  if (indices.length) {
    const surface = new BufferGeometry();
    surface.setAttribute('position', new BufferAttribute(positions, 3));
    surface.setIndex(new BufferAttribute(indices, 1));
    const material = new MeshBasicMaterial({ color: ink, transparent: true, opacity: 0.14, depthWrite: false, side: DoubleSide });
    const ghost = new Mesh(surface, material);
    ghost.name = 'ghost';
    ghost.renderOrder = 1;
    objects.push(ghost);
  }
  if (!lines.length) return objects;
  const drawn = wideLines(lines, { ink, width, opacity: 0.35, through: true });
  drawn.name = 'ghost';
  return [...objects, drawn];
}

/**
 * Three arrows at every n-th point (`wanted`; 0: as many as do not crowd each other), in their fixed colours: what the X, Y and Z of an object placed there
 * take, which are normal × tangent, normal and tangent. Null: no frames.
 */
export function frameArrows({ points, tangents, normals }: CurvesPicture, size: number, wanted: number, inks: StageInks): Object3D | null {
  const count = points.length / 3;
  if (!normals.length || !count) return null;
  const every = Math.max(wanted || spacedOut(points, size * 0.6), Math.ceil(count / mostFrames));
  const arrow = mergeGeometries([new CylinderGeometry(0.014, 0.014, 0.8, 6).translate(0, 0.4, 0), new ConeGeometry(0.055, 0.2, 10).translate(0, 0.9, 0)]);
  const chosen = Math.ceil(count / every);
  const arrows = new InstancedMesh(arrow, new MeshBasicMaterial({ color: '#ffffff' }), chosen * 3);
  const colours = [new Color(inks.side), new Color(inks.normal), new Color(inks.tangent)];
  const matrix = new Matrix4();
  const [t, n, x, p] = [new Vector3(), new Vector3(), new Vector3(), new Vector3()];
  let at = 0;
  for (let i = 0; i < count; i += every) {
    t.fromArray(tangents, i * 3);
    n.fromArray(normals, i * 3);
    x.crossVectors(n, t);
    p.fromArray(points, i * 3);
    [x, n, t].forEach((axis, which) => {
      const across = which === 1 ? x : n;
      matrix
        .makeBasis(across, axis, new Vector3().crossVectors(across, axis))
        .scale(new Vector3(size, size, size))
        .setPosition(p);
      arrows.setMatrixAt(at, matrix);
      arrows.setColorAt(at++, colours[which]);
    });
  }
  arrows.name = 'frames';
  arrows.renderOrder = 3;
  return arrows;
}

/** Every how many points lie at least `gap` apart, on the whole. */
function spacedOut(points: Float32Array, gap: number): number {
  const steps: number[] = [];
  for (let i = 3; i < points.length; i += 3) steps.push(Math.hypot(points[i] - points[i - 3], points[i + 1] - points[i - 2], points[i + 2] - points[i - 1]));
  const middle = steps.sort((a, b) => a - b)[steps.length >> 1] ?? gap;
  return Math.max(1, Math.ceil(gap / Math.max(middle, 1e-9)));
}
