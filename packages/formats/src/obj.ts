import { curveCount, curvesFromLists, faceCount, faceStart, linearColour, makeMesh, paced, type GeometrySet, type Mesh } from '@filaxis/core';
import { FormatError } from './errors.js';

/** Up to 9 significant digits: enough for a 32-bit number to come back as it was. */
const number = (value: number): string => String(Number(value.toPrecision(9)));

/**
 * A result as Wavefront OBJ text (common practice): polygons as they are, with `vt` and `vn`, curves as `l`. Points are written once, so that
 * faces share them; UVs and normals are written per vertex.
 * @throws FormatError when there is nothing to write.
 */
export function writeObj(set: GeometrySet, name: string): string {
  const head = ['# Filaxis', ...(set.mesh?.materials.length ? [`mtllib ${name}.mtl`] : []), `o ${name.replace(/\s+/g, '_')}`];
  const lines = [...head];
  let points = 0;
  if (set.mesh?.corners.length) points += objMesh(set.mesh, lines);
  if (set.curves?.positions.length) objCurves(set, lines, points);
  if (lines.length === head.length) throw new FormatError('There is nothing to write: the result has neither faces nor curves.');
  return `${lines.join('\n')}\n`;
}

function objMesh(mesh: Mesh, lines: string[]): number {
  const { positions, pointOf, pointCount } = mesh;
  const first = new Int32Array(pointCount).fill(-1);
  for (let v = 0; v < positions.length / 3; v++) {
    const point = pointOf ? pointOf[v] : v;
    if (first[point] < 0) first[point] = v;
  }
  for (let p = 0; p < pointCount; p++) {
    const at = Math.max(0, first[p]) * 3;
    lines.push(`v ${number(positions[at])} ${number(positions[at + 1])} ${number(positions[at + 2])}`);
  }
  const uv = mesh.attributes.get('uv')?.data;
  const normal = mesh.attributes.get('normal')?.data;
  if (uv) for (let i = 0; i < uv.length; i += 2) lines.push(`vt ${number(uv[i])} ${number(uv[i + 1])}`);
  if (normal) for (let i = 0; i < normal.length; i += 3) lines.push(`vn ${number(normal[i])} ${number(normal[i + 1])} ${number(normal[i + 2])}`);
  const corner = (v: number): string => {
    const point = (pointOf ? pointOf[v] : v) + 1;
    if (!uv && !normal) return String(point);
    return `${point}/${uv ? v + 1 : ''}${normal ? `/${v + 1}` : ''}`;
  };
  const own = mesh.attributes.get('material')?.data;
  let used = -2;
  for (let f = 0; f < faceCount(mesh); f++) {
    if (own && mesh.materials.length && own[f] !== used) {
      used = own[f];
      lines.push(`usemtl ${used < 0 ? 'none' : materialName(mesh, used)}`);
    }
    const words = ['f'];
    for (let i = faceStart(mesh, f); i < faceStart(mesh, f + 1); i++) words.push(corner(mesh.corners[i]));
    lines.push(words.join(' '));
  }
  return pointCount;
}

/** A name without spaces, told apart by its number. */
const materialName = (mesh: Mesh, which: number): string => `${mesh.materials[which].name.replace(/\s+/g, '_')}_${which}`;

/**
 * The materials of a result as a material library beside the OBJ file, or null when it has none: plain values (Kd, Ks, Ns, d) for older readers and the
 * metallic-roughness ones (Pr, Pm) that many read (common practice). Colours are in linear light.
 */
export function writeMtl({ mesh }: GeometrySet): string | null {
  if (!mesh?.materials.length) return null;
  const lines = ['# Filaxis'];
  mesh.materials.forEach((material, which) => {
    const colour = linearColour(material.colour);
    const shine = colour.map((value) => 0.04 * (1 - material.metalness) + value * material.metalness);
    lines.push(
      `newmtl ${materialName(mesh, which)}`,
      `Kd ${colour.map((value) => number(value * (1 - material.metalness))).join(' ')}`,
      `Ks ${shine.map(number).join(' ')}`,
      // Blinn's exponent for a roughness of α = r² (2/α² − 2; Walter et al. 2007, from memory), within what readers accept.
      `Ns ${number(Math.min(1000, Math.max(0, 2 / Math.max(material.roughness, 0.05) ** 4 - 2)))}`,
      `d ${number(material.opacity)}`,
      `Pr ${number(material.roughness)}`,
      `Pm ${number(material.metalness)}`,
      'illum 2',
    );
  });
  if (mesh.attributes.get('material')?.data.some((which) => which < 0)) lines.push('newmtl none', 'Kd 0.5 0.5 0.5');
  return `${lines.join('\n')}\n`;
}

function objCurves({ curves }: GeometrySet, lines: string[], before: number): void {
  const paths = paced(curves!);
  const p = paths.positions;
  for (let i = 0; i < p.length; i += 3) lines.push(`v ${number(p[i])} ${number(p[i + 1])} ${number(p[i + 2])}`);
  for (let c = 0; c < curveCount(paths); c++) {
    const indices = Array.from({ length: paths.starts[c + 1] - paths.starts[c] }, (_, i) => before + paths.starts[c] + i + 1);
    if (paths.closed[c]) indices.push(indices[0]);
    if (indices.length > 1) lines.push(`l ${indices.join(' ')}`);
  }
}

/**
 * Faces and `l` lines of OBJ text. Negative indices count from the end; groups, materials and other statements are passed over.
 * @throws FormatError with the line of what cannot be read.
 */
export function readObj(text: string): GeometrySet {
  const places: number[][] = [];
  const uvs: number[][] = [];
  const vertexOf = new Map<string, number>();
  const vertices: { point: number; uv: number }[] = [];
  const corners: number[] = [];
  const faceStarts = [0];
  const paths: number[][] = [];
  const fail = (line: number, what: string): never => {
    throw new FormatError(`Line ${line}: ${what}`);
  };
  const numbers = (words: string[], count: number, line: number): number[] => {
    const values = words.slice(1, 1 + count).map(Number);
    if (values.length < count || !values.every(Number.isFinite)) fail(line, `"${words.join(' ').slice(0, 60)}" needs ${count} finite numbers.`);
    return values;
  };
  const indexIn = (list: unknown[], word: string, line: number): number => {
    const value = Number(word);
    const index = value < 0 ? list.length + value : value - 1;
    if (!Number.isInteger(value) || index < 0 || index >= list.length) fail(line, `index ${word} is not among the ${list.length} read so far.`);
    return index;
  };
  text.split(/\r?\n/).forEach((raw, at) => {
    const words = raw.trim().split(/\s+/);
    const line = at + 1;
    if (words[0] === 'v') places.push(numbers(words, 3, line));
    else if (words[0] === 'vt') uvs.push(numbers(words, 2, line));
    else if (words[0] === 'l') {
      if (words.length < 3) fail(line, 'a line needs two points or more.');
      paths.push(words.slice(1).map((word) => indexIn(places, word.split('/')[0], line)));
    } else if (words[0] === 'f') {
      if (words.length < 4) fail(line, 'a face needs three corners or more.');
      for (const word of words.slice(1)) {
        const [p, t] = word.split('/');
        const vertex = { point: indexIn(places, p, line), uv: t ? indexIn(uvs, t, line) : -1 };
        const key = `${vertex.point}/${vertex.uv}`;
        if (!vertexOf.has(key)) vertexOf.set(key, vertices.push(vertex) - 1);
        corners.push(vertexOf.get(key)!);
      }
      faceStarts.push(corners.length);
    }
  });
  const curves = paths.map((path) => ({ closed: path.length > 3 && path[0] === path[path.length - 1], path }));
  const set: { mesh?: Mesh; curves?: GeometrySet['curves'] } = {};
  if (paths.length)
    set.curves = curvesFromLists(
      curves.map(({ closed, path }) => (closed ? path.slice(0, -1) : path).map((i) => places[i])),
      { closed: curves.map(({ closed }) => closed) },
    );
  if (corners.length) {
    const withUv = vertices.every(({ uv }) => uv >= 0);
    set.mesh = makeMesh({
      positions: Float32Array.from(vertices.flatMap(({ point }) => places[point])),
      pointOf: Uint32Array.from(vertices, ({ point }) => point),
      pointCount: places.length,
      corners: Uint32Array.from(corners),
      faceStarts: Uint32Array.from(faceStarts),
      attributes: withUv ? new Map([['uv', { carrier: 'corner', size: 2, data: Float32Array.from(vertices.flatMap(({ uv }) => uvs[uv])) }]]) : undefined,
    });
  }
  return set;
}
