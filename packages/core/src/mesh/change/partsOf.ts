import type { Work } from '../../base/work.js';
import type { Mesh } from '../../geometry/mesh.js';
import { connectedParts } from '../topology/parts.js';
import { partShapes, type PartShape } from '../topology/principal.js';
import { placesOfMesh } from '../topology/samePlaces.js';
import { takeFaces } from './takeFaces.js';

/** The parts of a body: which faces each has, how it lies, and it alone. */
export class PartsOf {
  /** The part of each face, numbered in the order of their first faces. */
  readonly ofFace: Uint32Array;
  readonly shapes: readonly PartShape[];
  private readonly alone: (Mesh | undefined)[] = [];
  private faces: number[][] | null = null;

  constructor(
    private readonly mesh: Mesh,
    work: Work,
  ) {
    const { ofFace, count } = connectedParts(mesh, placesOfMesh(mesh, work));
    this.ofFace = ofFace;
    this.shapes = partShapes(mesh, ofFace, count, work);
  }

  /** A part as a mesh of its own, the same one whenever it is asked for. */
  meshOf(part: number, work: Work): Mesh {
    if (!this.faces) {
      this.faces = this.shapes.map(() => []);
      for (let f = 0; f < this.ofFace.length; f++) this.faces[this.ofFace[f]].push(f);
    }
    return (this.alone[part] ??= takeFaces(this.mesh, this.faces[part], work));
  }
}

const known = new WeakMap<Mesh, PartsOf>();

/** The parts of a mesh, found once as long as it is there: a drag of what goes round them does not look for them again. */
export function partsOf(mesh: Mesh, work: Work): PartsOf {
  let parts = known.get(mesh);
  if (!parts) known.set(mesh, (parts = new PartsOf(mesh, work)));
  return parts;
}
