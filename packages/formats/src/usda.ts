import {
  curveCount,
  curveKinds,
  faceCount,
  faceStart,
  linearColour,
  matrixColumns,
  paced,
  type Curves,
  type GeometrySet,
  type Material,
  type Mesh,
} from '@filaxis/core';
import { FormatError } from './errors.js';
import type { WriteOptions } from './gltfWrite.js';
import { metres } from './units.js';

const number = (value: number): string => String(Number(value.toPrecision(9)));

/** Tuples of `size` numbers. */
function tuples(data: ArrayLike<number>, size: number): string {
  const parts: string[] = [];
  for (let i = 0; i < data.length; i += size) {
    let tuple = number(data[i]);
    for (let k = 1; k < size; k++) tuple += `, ${number(data[i + k])}`;
    parts.push(`(${tuple})`);
  }
  return `[${parts.join(', ')}]`;
}

/** A name that the format allows: letters, digits and underlines, not beginning with a digit. */
const identifier = (name: string): string => name.replace(/[^A-Za-z0-9_]/g, '_').replace(/^(?=\d)/, '_') || '_';

/**
 * A result as USD text (Universal Scene Description, open standard; from memory): meshes with normals, UVs and materials, curves as linear or cubic Bezier basis curves
 * with their widths, points, and copies each with its object, or as references to the first of them. UVs with their origin at the bottom left.
 * @throws FormatError when there is nothing to write.
 */
export function writeUsda(set: GeometrySet, name: string, { up = 'y', unit = 'm', instances = false }: WriteOptions = {}): string {
  const root = identifier(name);
  const body: string[] = [];
  const materials: Material[] = [];
  if (set.mesh?.corners.length) body.push(...meshPrim('mesh', set.mesh, `/${root}`, materials));
  if (set.curves?.positions.length) body.push(...curvesPrims(set.curves));
  if (set.points?.positions.length) body.push('def Points "points"', '{', `    point3f[] points = ${tuples(set.points.positions, 3)}`, '}');
  if (set.copies?.object.length) {
    const { objects, object } = set.copies;
    // Every copy holds its object, which every reader finds; by choice the first does and the others refer to it, which some do not follow.
    const first = new Map<number, number>();
    for (let i = 0; i < object.length; i++) {
      const before = instances ? first.get(object[i]) : undefined;
      if (before === undefined) first.set(object[i], i);
      body.push(
        `def Xform "copy${i}"`,
        '{',
        `    matrix4d xformOp:transform = ${matrixText(matrixColumns(set.copies, i))}`,
        '    uniform token[] xformOpOrder = ["xformOp:transform"]',
        ...(before === undefined
          ? ['    def Xform "object"', '    {', ...indented(meshPrim('mesh', objects[object[i]], `/${root}`, materials), 2), '    }']
          : ['    def Xform "object" (', `        prepend references = </${root}/copy${before}/object>`, '    )', '    {', '    }']),
        '}',
      );
    }
  }
  if (!body.length) throw new FormatError('There is nothing to write: the result is empty.');
  if (materials.length) body.push('def Scope "materials"', '{', ...indented(materials.flatMap((material, i) => materialPrim(material, i, root)), 1), '}'); // prettier-ignore
  const head = [
    '#usda 1.0',
    '(',
    `    defaultPrim = "${root}"`,
    '    doc = "Filaxis"',
    `    metersPerUnit = ${metres[unit]}`,
    `    upAxis = "${up.toUpperCase()}"`,
    ')',
    '',
  ];
  return `${[...head, `def Xform "${root}"`, '{', ...indented(body, 1), '}'].join('\n')}\n`;
}

const indented = (lines: readonly string[], by: number): string[] => lines.map((line) => '    '.repeat(by) + line);

/** Rows of a matrix for row vectors, as the format has them: the columns of ours. */
const matrixText = (m: ArrayLike<number>): string =>
  `( ${[0, 4, 8, 12].map((at) => `(${[0, 1, 2, 3].map((k) => number(m[at + k])).join(', ')})`).join(', ')} )`;

function meshPrim(name: string, mesh: Mesh, root: string, materials: Material[]): string[] {
  const faces = faceCount(mesh);
  const counts = Array.from({ length: faces }, (_, f) => faceStart(mesh, f + 1) - faceStart(mesh, f));
  const lines = [
    `def Mesh "${name}" (`,
    '    prepend apiSchemas = ["MaterialBindingAPI"]',
    ')',
    '{',
    '    uniform token subdivisionScheme = "none"',
    '    uniform token orientation = "rightHanded"',
    `    int[] faceVertexCounts = [${counts.join(', ')}]`,
    `    int[] faceVertexIndices = [${Array.from(mesh.corners).join(', ')}]`,
    `    point3f[] points = ${tuples(mesh.positions, 3)}`,
  ];
  const normal = mesh.attributes.get('normal');
  if (normal) lines.push(`    normal3f[] normals = ${tuples(normal.data, 3)} (`, '        interpolation = "vertex"', '    )');
  for (const [set, primvar] of [
    ['uv', 'st'],
    ['uv2', 'st1'],
  ] as const) {
    // prettier-ignore
    const uv = mesh.attributes.get(set);
    if (uv) lines.push(`    texCoord2f[] primvars:${primvar} = ${tuples(uv.data, 2)} (`, '        interpolation = "vertex"', '    )');
  }
  const own = mesh.attributes.get('material')?.data;
  mesh.materials.forEach((material, m) => {
    const which = Array.from({ length: faces }, (_, f) => f).filter((f) => own?.[f] === m);
    if (!which.length) return;
    const at = materials.push(material) - 1;
    lines.push(
      `    def GeomSubset "part${m}" (`,
      '        prepend apiSchemas = ["MaterialBindingAPI"]',
      '    )',
      '    {',
      '        uniform token elementType = "face"',
      '        uniform token familyName = "materialBind"',
      `        int[] indices = [${which.join(', ')}]`,
      `        rel material:binding = <${root}/materials/${materialName(material, at)}>`,
      '    }',
    );
  });
  return [...lines, '}'];
}

const materialName = ({ name }: Material, at: number): string => `${identifier(name)}_${at}`;

function materialPrim(material: Material, at: number, root: string): string[] {
  const name = materialName(material, at);
  const [r, g, b] = linearColour(material.colour);
  return [
    `def Material "${name}"`,
    '{',
    `    token outputs:surface.connect = </${root}/materials/${name}/surface.outputs:surface>`,
    '    def Shader "surface"',
    '    {',
    '        uniform token info:id = "UsdPreviewSurface"',
    `        color3f inputs:diffuseColor = (${number(r)}, ${number(g)}, ${number(b)})`,
    `        float inputs:roughness = ${number(material.roughness)}`,
    `        float inputs:metallic = ${number(material.metalness)}`,
    `        float inputs:opacity = ${number(material.opacity)}`,
    '        token outputs:surface',
    '    }',
    '}',
  ];
}

/** Curves by kind and wrap, since one prim holds curves of one sort: straight ones linear, smooth ones as the cubic Bezier spans they are made of. */
function curvesPrims(given: Curves): string[] {
  const curves = paced(given);
  const lines: string[] = [];
  for (const straight of [true, false])
    for (const closed of [0, 1]) {
      const places: number[] = [];
      const counts: number[] = [];
      const widths: number[] = [];
      for (let c = 0; c < curveCount(curves); c++) {
        if ((curveKinds[curves.kind[c]] === 'straight') !== straight || curves.closed[c] !== closed || curves.starts[c + 1] - curves.starts[c] < 2) continue;
        const before = places.length;
        curvePlaces(curves, c, straight, places);
        counts.push((places.length - before) / 3);
        const radius = curves.attributes.get('radius');
        for (let i = curves.starts[c]; radius?.carrier === 'point' && i < curves.starts[c + 1]; i++) widths.push(2 * radius.data[i]);
      }
      if (!counts.length) continue;
      lines.push(
        `def BasisCurves "${straight ? 'straight' : 'smooth'}${closed ? 'Closed' : ''}"`,
        '{',
        `    uniform token type = "${straight ? 'linear' : 'cubic'}"`,
        ...(straight ? [] : ['    uniform token basis = "bezier"']),
        `    uniform token wrap = "${closed ? 'periodic' : 'nonperiodic'}"`,
        `    int[] curveVertexCounts = [${counts.join(', ')}]`,
        `    point3f[] points = ${tuples(places, 3)}`,
        ...(widths.length ? [`    float[] widths = [${widths.map(number).join(', ')}] (`, '        interpolation = "varying"', '    )'] : []),
        '}',
      );
    }
  return lines;
}

function curvePlaces(curves: Curves, c: number, straight: boolean, out: number[]): void {
  const p = curves.positions;
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  const [into, leaving] = ['handleIn', 'handleOut'].map((name) => curves.attributes.get(name)?.data);
  const gaps = curves.closed[c] ? count : count - 1;
  for (let i = 0; i < count; i++) {
    const a = (from + i) * 3;
    for (let k = 0; k < 3; k++) out.push(p[a + k]);
    if (straight || i >= gaps) continue;
    const b = (from + ((i + 1) % count)) * 3;
    for (let k = 0; k < 3; k++) out.push(p[a + k] + (leaving?.[a + k] ?? 0));
    for (let k = 0; k < 3; k++) out.push(p[b + k] + (into?.[b + k] ?? 0));
  }
}
