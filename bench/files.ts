/** Files of half a million quads: written and read against the exporters and loaders of three.js, with the memory that it takes on top. */
import { BufferAttribute, BufferGeometry, Mesh as ThreeMesh } from 'three';
import { OBJExporter } from 'three/examples/jsm/exporters/OBJExporter.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { makeMesh, meshBytes, triangulate, type Attribute, type Mesh } from '../packages/core/src/index.js';
import { readers, writeTo, writers } from '../packages/formats/src/index.js';
import { faster, ms, rows } from './timing.js';

/** A wavy sheet of quads with UVs and normals. */
function sheet(quads: number): Mesh {
  const n = Math.round(Math.sqrt(quads));
  const width = n + 1;
  const [positions, uv, normal] = [3, 2, 3].map((size) => new Float32Array(width * width * size));
  for (let i = 0, v = 0; i < width; i++)
    for (let j = 0; j < width; j++, v++) {
      positions.set([i * 0.01, Math.sin(i * 0.1) * Math.cos(j * 0.07), j * 0.01], v * 3);
      uv.set([i / n, j / n], v * 2);
      normal.set([0.123, 0.98, 0.15], v * 3);
    }
  const corners = new Uint32Array(n * n * 4);
  for (let i = 0, at = 0; i < n; i++)
    for (let j = 0; j < n; j++, at += 4) {
      const v = i * width + j;
      corners.set([v, v + 1, v + width + 1, v + width], at);
    }
  const attributes = new Map<string, Attribute>([
    ['uv', { carrier: 'corner', size: 2, data: uv }],
    ['normal', { carrier: 'corner', size: 3, data: normal }],
  ]);
  return makeMesh({ positions, corners, uniform: 4, attributes });
}

/** CPU milliseconds of the quickest of three, and what it gave. */
async function cpu<T>(work: () => Promise<T> | T): Promise<{ time: number; given: T }> {
  let [time, given] = [Infinity, undefined as T];
  for (let i = 0; i < 3; i++) {
    const before = process.cpuUsage();
    given = await work();
    const { user, system } = process.cpuUsage(before);
    time = Math.min(time, (user + system) / 1000);
  }
  return { time, given };
}

const buffers = (mesh: Mesh): BufferGeometry => {
  const geometry = new BufferGeometry();
  for (const [theirs, ours] of [['uv', 'uv'], ['normal', 'normal']] as const) { const { size, data } = mesh.attributes.get(ours)!; geometry.setAttribute(theirs, new BufferAttribute(data, size)); } // prettier-ignore
  return geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3)).setIndex(new BufferAttribute(triangulate(mesh).indices, 1));
};

export async function files(): Promise<void> {
  const mesh = sheet(500_000);
  const text = new TextDecoder();
  const limits: Readonly<Record<string, number>> = { '.glb': 2000, '.gltf': 4000, '.obj': 4000, '.stl': 4000, '.ply': 4000, '.usda': 4000, '.json': 4000 };
  const written = new Map<string, { time: number; given: Uint8Array }>();
  for (const [ending, reach] of Object.entries(limits)) {
    const made = await cpu(() => writers[ending]({ mesh }, 'sheet'));
    written.set(ending, made);
    rows.push({ what: `1,000,000 triangles written as ${ending}`, ours: ms(made.time), against: '', result: `${(made.given.length / 1e6).toFixed(0)} MB`, reach: `under ${reach} ms` }); // prettier-ignore
  }
  const theirs = await cpu(() => new OBJExporter().parse(new ThreeMesh(buffers(mesh))));
  faster('The same as .obj', written.get('.obj')!.time, 'three.js', theirs.time, 'faster');
  for (const ending of ['.glb', '.gltf', '.obj', '.stl', '.ply', '.json']) {
    const bytes = written.get(ending)!.given;
    const { time } = await cpu(() => readers[ending](bytes));
    rows.push({ what: `1,000,000 triangles read from ${ending}`, ours: ms(time), against: '', result: '', reach: 'under 6000 ms' });
    if (ending === '.obj') faster('The same', time, 'three.js', (await cpu(() => new OBJLoader().parse(text.decode(bytes)))).time, 'faster');
    if (ending === '.ply') faster('The same', time, 'three.js', (await cpu(() => new PLYLoader().parse(text.decode(bytes)))).time, 'faster');
  }
}

/** Ten million quads in every format, piece by piece; a process of its own each would tell memory best: give one ending a run. */
export async function largeFiles(): Promise<void> {
  const mesh = sheet(10_000_000);
  for (const ending of process.env['ENDING']?.split(' ') ?? ['.glb', '.gltf', '.obj', '.stl', '.ply', '.usda', '.json']) {
    let size = 0;
    const { user, system } = process.cpuUsage();
    await writeTo((bytes) => void (size += bytes.length), ending, { mesh }, 'sheet');
    const after = process.cpuUsage();
    const peak = process.resourceUsage().maxRSS * 1024;
    rows.push({
      what: `10,000,000 quads (${(meshBytes(mesh) / 1e6).toFixed(0)} MB) written as ${ending}`,
      ours: ms((after.user + after.system - user - system) / 1000),
      against: '',
      result: `${(size / 1e6).toFixed(0)} MB; most memory so far, with the mesh, ${(peak / 1e6).toFixed(0)} MB`,
      reach: 'under 4× the file',
    });
  }
}
