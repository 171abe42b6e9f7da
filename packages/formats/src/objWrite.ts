import { curveCount, faceCount, faceStart, paced, type GeometrySet, type Mesh } from '@filaxis/core';
import { FormatError } from './errors.js';
import { originOf } from './far.js';
import { facesByPart, pointPlaces, pointValues } from './meshPieces.js';
import { TextSink } from './textSink.js';
import type { Out, WriteOptions } from './writeOptions.js';

/** Up to 9 significant digits: enough for a 32-bit number to come back as it was. */
const number = (value: number): string => String(Number(value.toPrecision(9)));

/** A place as the file counts it: from its own origin, with digits to match. */
const placeText = (p: Float32Array, at: number, origin: readonly number[]): string =>
  [0, 1, 2].map((k) => (origin[k] ? String(Number((p[at + k] + origin[k]).toPrecision(12))) : number(p[at + k]))).join(' ');

/**
 * A result as Wavefront OBJ text (common practice): polygons as they are, with `vt` and `vn`, curves as `l`. Points are written once, so that
 * faces share them, with their colour where a point has one; UVs and normals are written per vertex.
 * @throws FormatError when there is nothing to write.
 */
export function writeObj(set: GeometrySet, name: string, { parts }: WriteOptions, out: Out): void {
  if (!set.mesh?.corners.length && !set.curves?.positions.length) throw new FormatError('There is nothing to write: the result has neither faces nor curves.');
  const lines = new TextSink(out);
  lines.all(['# Filaxis', ...(set.mesh?.materials.length ? [`mtllib ${name}.mtl`] : []), `o ${unspaced(name)}`]);
  if (set.mesh?.corners.length) objMesh(set.mesh, lines, parts ? name : null);
  if (set.curves?.positions.length) objCurves(set, lines, set.mesh?.corners.length ? set.mesh.pointCount : 0);
  lines.end();
}

const unspaced = (name: string): string => name.replace(/\s+/g, '_');

/** `parts`: the name of groups; null: all in one. */
function objMesh(mesh: Mesh, lines: TextSink, parts: string | null): void {
  const { pointOf, pointCount } = mesh;
  const origin = originOf(mesh.attributes);
  const places = pointPlaces(mesh);
  const colour = mesh.attributes.get('colour');
  const seen = colour?.carrier === 'corner' && colour.size >= 3 ? pointValues(mesh, colour) : null;
  const colourText = (p: number): string => (seen ? ` ${[0, 1, 2].map((k) => number(seen[p * colour!.size + k])).join(' ')}` : '');
  for (let p = 0; p < pointCount; p++) lines.line(`v ${placeText(places, p * 3, origin)}${colourText(p)}`);
  const uv = mesh.attributes.get('uv')?.data;
  const normal = mesh.attributes.get('normal')?.data;
  if (uv) for (let i = 0; i < uv.length; i += 2) lines.line(`vt ${number(uv[i])} ${number(uv[i + 1])}`);
  if (normal) for (let i = 0; i < normal.length; i += 3) lines.line(`vn ${number(normal[i])} ${number(normal[i + 1])} ${number(normal[i + 2])}`);
  const corner = (v: number): string => {
    const point = (pointOf ? pointOf[v] : v) + 1;
    if (!uv && !normal) return String(point);
    return `${point}/${uv ? v + 1 : ''}${normal ? `/${v + 1}` : ''}`;
  };
  const own = mesh.attributes.get('material')?.data;
  let used = -2;
  const face = (f: number): void => {
    if (own && mesh.materials.length && own[f] !== used) {
      used = own[f];
      lines.line(`usemtl ${used < 0 ? 'none' : materialName(mesh, used)}`);
    }
    let words = 'f';
    for (let i = faceStart(mesh, f); i < faceStart(mesh, f + 1); i++) words += ` ${corner(mesh.corners[i])}`;
    lines.line(words);
  };
  if (parts === null) for (let f = 0; f < faceCount(mesh); f++) face(f);
  else
    for (const [part, faces] of facesByPart(mesh)) {
      lines.line(`g ${unspaced(parts)}_part_${part}`);
      faces.forEach(face);
    }
}

/** A name without spaces, told apart by its number. */
const materialName = (mesh: Mesh, which: number): string => `${unspaced(mesh.materials[which].name)}_${which}`;

/**
 * The materials of a result as a material library beside the OBJ file, or null when it has none: plain values (Kd, Ks, Ns, d) for older readers and the
 * metallic-roughness ones (Pr, Pm) that many read (common practice). Kd is the colour as it is seen (sRGB), which is how readers take it, and so are metals: their
 * colour is the only one that older readers have.
 */
export function writeMtl({ mesh }: GeometrySet): string | null {
  if (!mesh?.materials.length) return null;
  const lines = ['# Filaxis'];
  mesh.materials.forEach((material, which) => {
    const colour = [1, 3, 5].map((at) => parseInt(material.colour.slice(at, at + 2), 16) / 255);
    const shine = colour.map((value) => 0.04 * (1 - material.metalness) + value * material.metalness);
    lines.push(
      `newmtl ${materialName(mesh, which)}`,
      `Kd ${colour.map(number).join(' ')}`,
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

function objCurves({ curves }: GeometrySet, lines: TextSink, before: number): void {
  const paths = paced(curves!);
  const p = paths.positions;
  const origin = originOf(paths.attributes);
  for (let i = 0; i < p.length; i += 3) lines.line(`v ${placeText(p, i, origin)}`);
  for (let c = 0; c < curveCount(paths); c++) {
    const indices = Array.from({ length: paths.starts[c + 1] - paths.starts[c] }, (_, i) => before + paths.starts[c] + i + 1);
    if (paths.closed[c]) indices.push(indices[0]);
    if (indices.length > 1) lines.line(`l ${indices.join(' ')}`);
  }
}
