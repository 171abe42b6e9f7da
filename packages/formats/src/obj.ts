import { curveCount, curvesFromLists, faceCount, faceStart, makeMesh, makePoints, paced, type Attribute, type GeometrySet, type Mesh } from '@filaxis/core';
import { FormatError } from './errors.js';
import { countedFrom, farOrigin, originAttribute, originOf } from './far.js';
import { TextSink } from './textSink.js';

/** Up to 9 significant digits: enough for a 32-bit number to come back as it was. */
const number = (value: number): string => String(Number(value.toPrecision(9)));

/** A place as the file counts it: from its own origin, with digits to match. */
const placeText = (p: Float32Array, at: number, origin: readonly number[]): string =>
  [0, 1, 2].map((k) => (origin[k] ? String(Number((p[at + k] + origin[k]).toPrecision(12))) : number(p[at + k]))).join(' ');

/**
 * A result as Wavefront OBJ text (common practice): polygons as they are, with `vt` and `vn`, curves as `l`. Points are written once, so that
 * faces share them; UVs and normals are written per vertex.
 * @throws FormatError when there is nothing to write.
 */
export function writeObj(set: GeometrySet, name: string): Uint8Array {
  const head = ['# Filaxis', ...(set.mesh?.materials.length ? [`mtllib ${name}.mtl`] : []), `o ${name.replace(/\s+/g, '_')}`];
  const lines = new TextSink();
  lines.all(head);
  let points = 0;
  if (set.mesh?.corners.length) points += objMesh(set.mesh, lines);
  if (set.curves?.positions.length) objCurves(set, lines, points);
  if (lines.lines === head.length) throw new FormatError('There is nothing to write: the result has neither faces nor curves.');
  return lines.bytes();
}

function objMesh(mesh: Mesh, lines: TextSink): number {
  const { positions, pointOf, pointCount } = mesh;
  const origin = originOf(mesh.attributes);
  const first = new Int32Array(pointCount).fill(-1);
  for (let v = 0; v < positions.length / 3; v++) {
    const point = pointOf ? pointOf[v] : v;
    if (first[point] < 0) first[point] = v;
  }
  for (let p = 0; p < pointCount; p++) {
    const at = Math.max(0, first[p]) * 3;
    lines.line(`v ${placeText(positions, at, origin)}`);
  }
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
  for (let f = 0; f < faceCount(mesh); f++) {
    if (own && mesh.materials.length && own[f] !== used) {
      used = own[f];
      lines.line(`usemtl ${used < 0 ? 'none' : materialName(mesh, used)}`);
    }
    const words = ['f'];
    for (let i = faceStart(mesh, f); i < faceStart(mesh, f + 1); i++) words.push(corner(mesh.corners[i]));
    lines.line(words.join(' '));
  }
  return pointCount;
}

/** A name without spaces, told apart by its number. */
const materialName = (mesh: Mesh, which: number): string => `${mesh.materials[which].name.replace(/\s+/g, '_')}_${which}`;

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

/** Lines of a text, whatever ends them, with those joined that a backslash continues; each with its number. */
function* statements(text: string): Generator<readonly [line: number, words: string[]]> {
  let number = 0;
  let at = 0;
  let waiting = '';
  let began = 1;
  // Where the next of each sign is, looked for only when it has been passed: a file may have but one of them.
  let feed = -1;
  let turn = -1;
  const next = (sign: string, known: number): number => {
    if (known >= at) return known;
    const found = text.indexOf(sign, at);
    return found < 0 ? Infinity : found;
  };
  while (at <= text.length) {
    feed = next('\n', feed);
    turn = next('\r', turn);
    const end = Math.min(feed, turn, text.length);
    number++;
    if (!waiting) began = number;
    const raw = text.slice(at, end);
    at = text[end] === '\r' && text[end + 1] === '\n' ? end + 2 : end + 1;
    if (raw.trimEnd().endsWith('\\')) {
      waiting += `${raw.trimEnd().slice(0, -1)} `;
      if (at <= text.length) continue;
    }
    const whole = waiting + raw;
    waiting = '';
    const remark = whole.indexOf('#');
    const words = (remark < 0 ? whole : whole.slice(0, remark)).trim().split(/\s+/);
    if (words[0]) yield [began, words];
  }
}

/**
 * Faces and `l` lines of OBJ text, with UVs, normals, groups (as `part`) and colours of points; points alone where there is nothing else. Negative indices count from
 * the end; statements that say nothing of these are passed over.
 * @throws FormatError with the line of what cannot be read.
 */
export function readObj(text: string): GeometrySet {
  const places: number[] = [];
  const colours: number[] = [];
  const uvs: number[] = [];
  const normals: number[] = [];
  const vertexOf = new Map<string, number>();
  const vertices: { point: number; uv: number; normal: number }[] = [];
  const corners: number[] = [];
  const faceStarts = [0];
  const groups = new Map<string, number>();
  const parts: number[] = [];
  let group = 0;
  const paths: number[][] = [];
  const fail = (line: number, what: string): never => {
    throw new FormatError(`Line ${line}: ${what}`);
  };
  const numbers = (words: string[], count: number, line: number, out: number[]): void => {
    for (let k = 1; k <= count; k++) {
      const value = Number(words[k]);
      if (words[k] === undefined || !Number.isFinite(value)) fail(line, `"${words.join(' ').slice(0, 60)}" needs ${count} finite numbers.`);
      out.push(value);
    }
  };
  const indexIn = (count: number, word: string, line: number): number => {
    const value = Number(word);
    const index = value < 0 ? count + value : value - 1;
    if (!Number.isInteger(value) || index < 0 || index >= count) fail(line, `index ${word} is not among the ${count} read so far.`);
    return index;
  };
  for (const [line, words] of statements(text)) {
    if (words[0] === 'v') {
      numbers(words, 3, line, places);
      // Three more numbers are a colour (common practice); a weight alone is not looked at.
      if (words.length >= 7) numbers(words.slice(3), 3, line, colours);
    } else if (words[0] === 'vt') numbers([...words, '0'], 2, line, uvs);
    else if (words[0] === 'vn') numbers(words, 3, line, normals);
    else if (words[0] === 'g' || words[0] === 'o') {
      const name = words.slice(1).join(' ');
      if (!groups.has(name)) groups.set(name, groups.size);
      group = groups.get(name)!;
    } else if (words[0] === 'l') {
      if (words.length < 3) fail(line, 'a line needs two points or more.');
      paths.push(words.slice(1).map((word) => indexIn(places.length / 3, word.split('/')[0], line)));
    } else if (words[0] === 'f') {
      if (words.length < 4) fail(line, 'a face needs three corners or more.');
      for (const word of words.slice(1)) {
        const [p, t, n] = word.split('/');
        const vertex = {
          point: indexIn(places.length / 3, p, line),
          uv: t ? indexIn(uvs.length / 2, t, line) : -1,
          normal: n ? indexIn(normals.length / 3, n, line) : -1,
        };
        const key = `${vertex.point}/${vertex.uv}/${vertex.normal}`;
        if (!vertexOf.has(key)) vertexOf.set(key, vertices.push(vertex) - 1);
        corners.push(vertexOf.get(key)!);
      }
      faceStarts.push(corners.length);
      parts.push(group);
    }
  }
  // One origin for all, so that lines stay on their faces.
  const origin = farOrigin(places);
  const near = countedFrom(places, origin);
  const place = (i: number): number[] => Array.from(near.subarray(i * 3, i * 3 + 3));
  const coloured = colours.length > 0 && colours.length === places.length;
  const set: { mesh?: Mesh; curves?: GeometrySet['curves']; points?: GeometrySet['points'] } = {};
  if (paths.length) {
    const curves = paths.map((path) => ({ closed: path.length > 3 && path[0] === path[path.length - 1], path }));
    set.curves = curvesFromLists(
      curves.map(({ closed, path }) => (closed ? path.slice(0, -1) : path).map(place)),
      { closed: curves.map(({ closed }) => closed) },
    );
    if (origin) set.curves = { ...set.curves, attributes: new Map(originAttribute(origin)) };
  }
  if (corners.length) {
    const rows = (list: ArrayLike<number>, size: number, which: (vertex: (typeof vertices)[number]) => number): Float32Array => {
      const out = new Float32Array(vertices.length * size);
      vertices.forEach((vertex, i) => {
        for (let k = 0; k < size; k++) out[i * size + k] = list[which(vertex) * size + k];
      });
      return out;
    };
    const attributes = new Map<string, Attribute>(originAttribute(origin));
    if (vertices.every(({ uv }) => uv >= 0)) attributes.set('uv', { carrier: 'corner', size: 2, data: rows(uvs, 2, ({ uv }) => uv) });
    if (vertices.every(({ normal }) => normal >= 0)) attributes.set('normal', { carrier: 'corner', size: 3, data: rows(normals, 3, ({ normal }) => normal) });
    if (coloured) attributes.set('colour', { carrier: 'corner', size: 3, data: rows(colours, 3, ({ point }) => point) });
    if (groups.size > 1) attributes.set('part', { carrier: 'face', size: 1, data: Float32Array.from(parts) });
    set.mesh = makeMesh({
      positions: rows(near, 3, ({ point }) => point),
      pointOf: Uint32Array.from(vertices, ({ point }) => point),
      pointCount: places.length / 3,
      corners: Uint32Array.from(corners),
      faceStarts: Uint32Array.from(faceStarts),
      attributes,
    });
  }
  if (!paths.length && !corners.length && places.length)
    set.points = makePoints(
      Float32Array.from(places),
      coloured ? new Map([['colour', { carrier: 'point', size: 3, data: Float32Array.from(colours) }]]) : undefined,
    );
  return set;
}
