import { BufferAttribute, BufferGeometry, LineBasicMaterial, LineSegments, type ColorRepresentation, type Object3D } from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import type { MeshPicture } from '@filaxis/protocol';
import { drawnBySoftware } from '../../shared/graphics';

export interface LineLook {
  readonly ink: ColorRepresentation;
  /** Pixels. */
  readonly width: number;
  readonly opacity?: number;
  /** Seen through what stands before them. */
  readonly through?: boolean;
  /** A colour an end, linear, 3 numbers each, in place of the ink. */
  readonly colours?: Float32Array | null;
}

/** Most pieces that are drawn with a width where no graphics card helps: beyond they are one pixel wide. */
const mostBySoftware = 20_000;

/** Pairs of ends (6 numbers a piece) as lines of a width in pixels. */
export function wideLines(ends: Float32Array, { ink, width, opacity = 1, through = false, colours = null }: LineLook): Object3D {
  const looks = {
    color: colours ? '#ffffff' : ink,
    vertexColors: colours !== null,
    transparent: true,
    opacity,
    depthTest: !through,
    depthWrite: false,
    toneMapped: false,
  };
  if (width <= 1 || (drawnBySoftware() && ends.length / 6 > mostBySoftware)) {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(ends, 3));
    if (colours) geometry.setAttribute('color', new BufferAttribute(colours, 3));
    return new LineSegments(geometry, new LineBasicMaterial(looks));
  }
  const geometry = new LineSegmentsGeometry();
  geometry.setPositions(ends);
  if (colours) geometry.setColors(colours);
  const lines = new LineSegments2(geometry, new LineMaterial({ ...looks, linewidth: width }));
  lines.frustumCulled = false;
  return lines;
}

/** The polygon edges of a mesh, two vertices each. Of quads, which share edges, each gives its first and its last. */
export function edgesOf({ edges, indices }: MeshPicture): Uint32Array {
  if (edges) return edges;
  const made = new Uint32Array((indices.length / 3) * 2);
  for (let from = 0, to = 0; to < made.length; from += 6, to += 4) {
    made[to] = indices[from];
    made[to + 1] = indices[from + 1];
    made[to + 2] = indices[from + 5];
    made[to + 3] = indices[from];
  }
  return made;
}

/** Ends of the edges of a mesh, two vertices each. */
export function endsOf(positions: Float32Array, edges: Uint32Array): Float32Array {
  const ends = new Float32Array(edges.length * 3);
  for (let i = 0; i < edges.length; i++) {
    const from = edges[i] * 3;
    ends[i * 3] = positions[from];
    ends[i * 3 + 1] = positions[from + 1];
    ends[i * 3 + 2] = positions[from + 2];
  }
  return ends;
}
