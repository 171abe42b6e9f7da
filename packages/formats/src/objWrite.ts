import { curveCount, distinctNames, faceCount, faceStart, joinSets, paced, type Curves, type GeometrySet, type Mesh, type Piece } from '@filaxis/core';
import { FormatError } from './errors.js';
import { originOf } from './far.js';
import { facesByPart, pointPlaces, pointValues } from './meshPieces.js';
import { numberText, TextSink } from './textSink.js';
import type { Out, WriteOptions } from './writeOptions.js';

const [space, slash] = [32, 47];

/** A place as the file counts it: from its own origin, with digits to match. */
function place(lines: TextSink, p: Float32Array, at: number, origin: readonly number[]): void {
  lines.text('v ');
  for (let k = 0; k < 3; k++) {
    if (k) lines.sign(space);
    if (origin[k]) lines.text(String(Number((p[at + k] + origin[k]).toPrecision(12))));
    else lines.number(p[at + k]);
  }
}

/** A piece as an object of the file: its faces and curves among all. */
interface ObjObject {
  readonly name: string;
  readonly faces: readonly [from: number, to: number];
  readonly curves: readonly [from: number, to: number];
}

/** Pieces as one set, and where each of them is in it. */
function together(pieces: readonly Piece[]): { readonly set: GeometrySet; readonly objects: ObjObject[] } {
  let [face, curve] = [0, 0];
  const objects = pieces.map(({ name, set: { mesh, curves } }): ObjObject => {
    const [faces, lines] = [mesh ? faceCount(mesh) : 0, curves ? curveCount(curves) : 0];
    return { name, faces: [face, (face += faces)], curves: [curve, (curve += lines)] };
  });
  return { set: joinSets(pieces.map(({ set }) => set)), objects };
}

/**
 * Results as Wavefront OBJ text (common practice), an object each: polygons as they are, with `vt` and `vn`, curves as `l`. Points are written once, so that
 * faces share them, with their colour where a point has one; UVs and normals are written per vertex.
 * @throws FormatError when there is nothing to write.
 */
export function writeObj(pieces: readonly Piece[], name: string, { parts }: WriteOptions, out: Out): void {
  const { set, objects } = together(pieces);
  const { mesh, curves } = set;
  if (!mesh?.corners.length && !curves?.positions.length)
    throw new FormatError('There is nothing to write: the result has neither faces nor curves.', 'format');
  const lines = new TextSink(out);
  lines.all(['# Filaxis', ...(mesh?.materials.length ? [`mtllib ${name}.mtl`] : [])]);
  const faces = mesh?.corners.length ? objMesh(mesh, lines) : null;
  const paths = curves?.positions.length ? objCurves(curves, lines, mesh?.corners.length ? mesh.pointCount : 0) : null;
  const names = distinctNames(objects.map((object) => unspaced(object.name)), '_'); // prettier-ignore
  objects.forEach((object, i) => {
    lines.line(`o ${names[i]}`);
    faces?.(object.faces, parts ? names[i] : null);
    paths?.(object.curves);
  });
  lines.end();
}

const unspaced = (name: string): string => name.replace(/\s+/g, '_');

/** Writes the places, UVs and normals of a mesh; what comes back writes a range of its faces, in groups of that name (null: all in one). */
function objMesh(mesh: Mesh, lines: TextSink): (range: readonly [from: number, to: number], groups: string | null) => void {
  const { pointOf, pointCount } = mesh;
  const origin = originOf(mesh.attributes);
  const places = pointPlaces(mesh);
  const colour = mesh.attributes.get('colour');
  const seen = colour?.carrier === 'corner' && colour.size >= 3 ? pointValues(mesh, colour) : null;
  for (let p = 0; p < pointCount; p++) {
    place(lines, places, p * 3, origin);
    if (seen) lines.sign(space);
    if (seen) lines.numbers(seen, p * colour!.size, 3, space);
    lines.endLine();
  }
  const uv = mesh.attributes.get('uv')?.data;
  const normal = mesh.attributes.get('normal')?.data;
  const table = (word: string, data: Float32Array, size: number): void => {
    for (let i = 0; i < data.length; i += size) {
      lines.text(word);
      lines.numbers(data, i, size, space);
      lines.endLine();
    }
  };
  if (uv) table('vt ', uv, 2);
  if (normal) table('vn ', normal, 3);
  const corner = (v: number): void => {
    lines.sign(space);
    lines.whole((pointOf ? pointOf[v] : v) + 1);
    if (!uv && !normal) return;
    lines.sign(slash);
    if (uv) lines.whole(v + 1);
    if (!normal) return;
    lines.sign(slash);
    lines.whole(v + 1);
  };
  const own = mesh.attributes.get('material')?.data;
  let used = -2;
  const face = (f: number): void => {
    if (own && mesh.materials.length && own[f] !== used) {
      used = own[f];
      lines.line(`usemtl ${used < 0 ? 'none' : materialName(mesh, used)}`);
    }
    lines.text('f');
    for (let i = faceStart(mesh, f); i < faceStart(mesh, f + 1); i++) corner(mesh.corners[i]);
    lines.endLine();
  };
  return ([from, to], groups) => {
    if (groups === null) for (let f = from; f < to; f++) face(f);
    else
      for (const [part, faces] of facesByPart(mesh, from, to)) {
        lines.line(`g ${groups}_part_${part}`);
        faces.forEach(face);
      }
  };
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
      `Kd ${colour.map(numberText).join(' ')}`,
      `Ks ${shine.map(numberText).join(' ')}`,
      // Blinn's exponent for a roughness of α = r² (2/α² − 2; Walter et al. 2007, from memory), within what readers accept.
      `Ns ${numberText(Math.min(1000, Math.max(0, 2 / Math.max(material.roughness, 0.05) ** 4 - 2)))}`,
      `d ${numberText(material.opacity)}`,
      `Pr ${numberText(material.roughness)}`,
      `Pm ${numberText(material.metalness)}`,
      'illum 2',
    );
  });
  if (mesh.attributes.get('material')?.data.some((which) => which < 0)) lines.push('newmtl none', 'Kd 0.5 0.5 0.5');
  return `${lines.join('\n')}\n`;
}

/** Writes the places of curves, after so many others; what comes back writes some of the curves. */
function objCurves(curves: Curves, lines: TextSink, before: number): (range: readonly [from: number, to: number]) => void {
  const paths = paced(curves);
  const p = paths.positions;
  const origin = originOf(paths.attributes);
  for (let i = 0; i < p.length; i += 3) {
    place(lines, p, i, origin);
    lines.endLine();
  }
  return ([from, to]) => {
    for (let c = from; c < to; c++) {
      const indices = Array.from({ length: paths.starts[c + 1] - paths.starts[c] }, (_, i) => before + paths.starts[c] + i + 1);
      if (paths.closed[c]) indices.push(indices[0]);
      if (indices.length > 1) lines.line(`l ${indices.join(' ')}`);
    }
  };
}
