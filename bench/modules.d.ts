declare module 'gl-catmull-clark' {
  /** Divides faces of places `times` times. */
  export default function catmullClark(
    places: readonly (readonly number[])[],
    faces: readonly (readonly number[])[],
    times: number,
    triangles: boolean,
  ): { positions: number[][]; cells: number[][] };
}
