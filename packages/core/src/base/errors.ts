/** Geometry that cannot be: arrays that do not agree, or numbers that are not finite. The message says which and where. */
export class GeometryError extends Error {
  override name = 'GeometryError';
}
