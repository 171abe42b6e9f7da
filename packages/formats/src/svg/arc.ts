/** Degrees that one cubic piece of an arc may span: it lies off by 4·10⁻⁷ of the radius then (a quarter by 2.7·10⁻⁴, falling with the sixth power). */
const longestPiece = Math.PI / 6;

/**
 * An elliptical arc as cubic pieces, 6 numbers each (first handle, second handle, end), by the conversion from end points to the centre of SVG 2, B.2.4. Radii
 * that cannot reach are enlarged; radii of 0 give a straight piece, equal ends none.
 */
export function arcPieces(x: number, y: number, rx: number, ry: number, turn: number, large: boolean, sweep: boolean, ex: number, ey: number): number[][] {
  if (x === ex && y === ey) return [];
  let [a, b] = [Math.abs(rx), Math.abs(ry)];
  if (!a || !b) return [[x + (ex - x) / 3, y + (ey - y) / 3, ex - (ex - x) / 3, ey - (ey - y) / 3, ex, ey]];
  const angle = (turn * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const [mx, my] = [(x - ex) / 2, (y - ey) / 2];
  const [px, py] = [c * mx + s * my, -s * mx + c * my];
  const reach = (px / a) ** 2 + (py / b) ** 2;
  if (reach > 1) {
    a *= Math.sqrt(reach);
    b *= Math.sqrt(reach);
  }
  const below = (a * py) ** 2 + (b * px) ** 2;
  const root = Math.sqrt(Math.max(0, ((a * b) ** 2 - below) / below)) * (large === sweep ? -1 : 1);
  const [qx, qy] = [(root * a * py) / b, (-root * b * px) / a];
  const [cx, cy] = [c * qx - s * qy + (x + ex) / 2, s * qx + c * qy + (y + ey) / 2];
  const from = Math.atan2((py - qy) / b, (px - qx) / a);
  let span = Math.atan2((-py - qy) / b, (-px - qx) / a) - from;
  if (sweep && span < 0) span += 2 * Math.PI;
  if (!sweep && span > 0) span -= 2 * Math.PI;
  const count = Math.max(1, Math.ceil(Math.abs(span) / longestPiece - 1e-9));
  const step = span / count;
  const handle = (4 / 3) * Math.tan(step / 4);
  const place = (u: number, v: number): [number, number] => [cx + c * a * u - s * b * v, cy + s * a * u + c * b * v];
  return Array.from({ length: count }, (_, i) => {
    const [t0, t1] = [from + i * step, from + (i + 1) * step];
    const [c0, s0, c1, s1] = [Math.cos(t0), Math.sin(t0), Math.cos(t1), Math.sin(t1)];
    const end = i === count - 1 ? [ex, ey] : place(c1, s1);
    return [...place(c0 - handle * s0, s0 + handle * c0), ...place(c1 + handle * s1, s1 - handle * c1), ...end];
  });
}
