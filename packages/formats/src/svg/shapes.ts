/** Path data of a basic shape (the equivalents given in SVG 2, chapter 10), or null for other elements and for shapes without a size. */
export function shapeData(tag: string, attributes: Readonly<Record<string, string>>, length: (name: string, direction: 0 | 1 | 2) => number): string | null {
  switch (tag) {
    case 'path':
      return attributes['d']?.trim() && attributes['d'].trim() !== 'none' ? attributes['d'] : null;
    case 'line':
      return `M${length('x1', 0)} ${length('y1', 1)}L${length('x2', 0)} ${length('y2', 1)}`;
    case 'polyline':
    case 'polygon':
      return polygonData(attributes['points'] ?? '', tag === 'polygon');
    case 'rect':
      return rectData(attributes, length);
    case 'circle':
      return ellipseData(length('cx', 0), length('cy', 1), length('r', 2), length('r', 2));
    case 'ellipse': {
      const [rx, ry] = radii(attributes, length);
      return ellipseData(length('cx', 0), length('cy', 1), rx, ry);
    }
    default:
      return null;
  }
}

/** A radius that is left out or automatic is as the other one. */
function radii(attributes: Readonly<Record<string, string>>, length: (name: string, direction: 0 | 1 | 2) => number): [number, number] {
  const given = (name: string): boolean => attributes[name] !== undefined && attributes[name] !== 'auto';
  const rx = given('rx') ? length('rx', 0) : given('ry') ? length('ry', 1) : 0;
  return [rx, given('ry') ? length('ry', 1) : rx];
}

/** Points of a polygon; of an odd number of coordinates the last is left out, as the standard has it. */
function polygonData(points: string, closed: boolean): string | null {
  const numbers = points.trim().split(/[\s,]+|(?<=\d)(?=-)/).filter(Boolean); // prettier-ignore
  if (numbers.length % 2) numbers.pop();
  return numbers.length < 4 ? null : `M${numbers.join(' ')}${closed ? 'Z' : ''}`;
}

const ellipseData = (cx: number, cy: number, rx: number, ry: number): string | null =>
  rx > 0 && ry > 0
    ? `M${cx + rx} ${cy}A${rx} ${ry} 0 0 1 ${cx} ${cy + ry}A${rx} ${ry} 0 0 1 ${cx - rx} ${cy}A${rx} ${ry} 0 0 1 ${cx} ${cy - ry}A${rx} ${ry} 0 0 1 ${cx + rx} ${cy}Z`
    : null;

function rectData(attributes: Readonly<Record<string, string>>, length: (name: string, direction: 0 | 1 | 2) => number): string | null {
  const [x, y, w, h] = [length('x', 0), length('y', 1), length('width', 0), length('height', 1)];
  if (!(w > 0 && h > 0)) return null;
  const [gx, gy] = radii(attributes, length);
  const [rx, ry] = [Math.min(gx, w / 2), Math.min(gy, h / 2)];
  if (!(rx > 0 && ry > 0)) return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
  const arc = (ex: number, ey: number): string => `A${rx} ${ry} 0 0 1 ${ex} ${ey}`;
  return `M${x + rx} ${y}H${x + w - rx}${arc(x + w, y + ry)}V${y + h - ry}${arc(x + w - rx, y + h)}H${x + rx}${arc(x, y + h - ry)}V${y + ry}${arc(x + rx, y)}Z`;
}
