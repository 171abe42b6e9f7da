/** How a result is written. */
export interface WriteOptions {
  /** What the whole is called in the file; without it, as the file is. */
  readonly called?: string;
  /** All pieces as one object, called as the whole is. */
  readonly joined?: boolean;
  /** Copies as one mesh. */
  readonly expanded?: boolean;
  /**
   * Copies by what some readers do not know: in glTF by the instancing extension instead of nodes that share a mesh, in USD by references to the first of them instead of the
   * object in each.
   */
  readonly instances?: boolean;
  /** The axis that points up in the file (y), and its unit (m). */
  readonly up?: 'y' | 'z';
  readonly unit?: 'm' | 'cm' | 'mm';
  /** Faces of each `part` as an object of its own name: nodes of glTF, prims of USD, groups of OBJ. */
  readonly parts?: boolean;
  /** Tangents by MikkTSpace, in glTF. */
  readonly tangents?: boolean;
  /** The UV set that goes out as the first (`uv`). */
  readonly uv?: string;
  /** The value that goes out as the vertex colour (`colour`); a single number as grey. */
  readonly colour?: string;
  /** PLY with one vertex a point: UVs at the corners of faces, which some readers do not know, and normals only where a point has one. */
  readonly welded?: boolean;
  /** Frames in one file, each as a morph target of the first, in binary glTF. In USD they always are in one. */
  readonly together?: boolean;
}

/** Takes the bytes of a file as they are made, one piece after another. */
export type Out = (bytes: Uint8Array) => void;
