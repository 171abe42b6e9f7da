/** Cosine and sine of an angle in degrees; of quarter turns they are exact, so that what is turned by them lies on its axes. */
export function cosineAndSine(degrees: number): readonly [cosine: number, sine: number] {
  const quarters = degrees / 90;
  if (Number.isInteger(quarters)) {
    const quarter = ((quarters % 4) + 4) % 4;
    return [[1, 0, -1, 0][quarter], [0, 1, 0, -1][quarter]]; // prettier-ignore
  }
  const angle = (degrees * Math.PI) / 180;
  return [Math.cos(angle), Math.sin(angle)];
}
