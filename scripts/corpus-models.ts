/**
 * The second half of `npm run corpus`: reads the models that Debian's package `assimp-testmodels` holds (files of many programs, and broken ones), and compares their triangles and
 * where they lie with what three.js's loaders find. The package is unpacked into `.local/corpus` and nothing of it is kept here.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, relative, resolve } from 'node:path';
import { Box3, Group, Mesh, type Object3D, Vector3 } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { endingOf, readers, textOf, withBuffersInside } from '@filaxis/formats';

const folder = resolve(import.meta.dirname, '../.local/corpus/models');
const held = ['.obj', '.ply', '.stl', '.gltf', '.glb'];

/** What is compared: how many triangles, and the corners of the box around them. */
interface Found {
  readonly triangles: number;
  readonly box: readonly number[];
}

if (!existsSync(resolve(folder, 'usr'))) {
  mkdirSync(folder, { recursive: true });
  execFileSync('apt-get', ['download', 'assimp-testmodels'], { cwd: folder, stdio: ['ignore', 'ignore', 'inherit'] });
  execFileSync('dpkg', ['-x', readdirSync(folder).find((name) => name.endsWith('.deb'))!, '.'], { cwd: folder });
}

/** Files beside a model, by the names that it has for them. */
const beside =
  (path: string) =>
  (name: string): Uint8Array | null => {
    const file = resolve(dirname(path), name);
    return existsSync(file) ? readFileSync(file) : null;
  };

async function ours(bytes: Uint8Array, path: string): Promise<Found> {
  const { mesh } = await readers[endingOf(path)](bytes, beside(path));
  if (!mesh) return { triangles: 0, box: [] };
  const [box, place] = [new Box3(), new Vector3()];
  // A mesh of triangles alone needs no starts of faces.
  const triangles = mesh.faceStarts ? mesh.corners.length - 2 * (mesh.faceStarts.length - 1) : mesh.corners.length / 3;
  for (const corner of mesh.corners) box.expandByPoint(place.fromArray(mesh.positions, corner * 3));
  return { triangles, box: [...box.min.toArray(), ...box.max.toArray()] };
}

/** The same by three.js; textures are left out, since there is nothing here to decode them. */
async function theirs(bytes: Uint8Array<ArrayBuffer>, path: string): Promise<Found> {
  const whole = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length);
  const open: Readonly<Record<string, () => Promise<Object3D> | Object3D>> = {
    '.obj': () => new OBJLoader().parse(textOf(bytes)),
    '.ply': () => {
      const geometry = new PLYLoader().parse(whole);
      return geometry.index ? new Mesh(geometry) : new Group();
    },
    '.stl': () => new Mesh(new STLLoader().parse(whole)),
    '.glb': async () => (await new GLTFLoader().parseAsync(whole, '')).scene,
    '.gltf': async () => {
      const document = JSON.parse(new TextDecoder().decode(withBuffersInside(bytes, beside(path)))) as Record<string, unknown>;
      for (const part of ['textures', 'images', 'materials']) delete document[part];
      for (const { primitives } of (document['meshes'] as { primitives: { material?: number }[] }[] | undefined) ?? [])
        for (const each of primitives) delete each.material;
      return (await new GLTFLoader().parseAsync(JSON.stringify(document), '')).scene;
    },
  };
  const root = await open[endingOf(path)]();
  root.updateMatrixWorld(true);
  const box = new Box3();
  let triangles = 0;
  root.traverse((each) => {
    const { geometry, isMesh } = each as Mesh;
    if (!isMesh) return;
    triangles += (geometry.index?.count ?? geometry.getAttribute('position').count) / 3;
    box.expandByObject(each, true);
  });
  return { triangles, box: triangles ? [...box.min.toArray(), ...box.max.toArray()] : [] };
}

/** Some loaders never say that they failed. */
const within = <T>(work: Promise<T>): Promise<T> =>
  Promise.race([work, new Promise<never>((_, failed) => setTimeout(() => failed(new Error('No answer within 10 s.')), 10_000))]);
const told = (error: unknown): string => `refused: ${(error as Error).message.split('\n')[0].slice(0, 110)}`;
const near = (a: readonly number[], b: readonly number[]): boolean =>
  a.length === b.length && a.every((value, k) => Math.abs(value - b[k]) <= 1e-4 * Math.max(1e-3, ...a.map(Math.abs)));

// What the loaders look for in a page.
Object.assign(globalThis, { self: globalThis, ProgressEvent: Event });
const counts = { same: 0, both: 0, ours: 0, theirs: 0, other: 0 };
const files = readdirSync(folder, { recursive: true, withFileTypes: true })
  .filter((entry) => entry.isFile() && held.includes(endingOf(entry.name)))
  .map((entry) => resolve(entry.parentPath, entry.name))
  .sort();
for (const path of files) {
  const bytes = new Uint8Array(readFileSync(path));
  const [mine, other] = await Promise.all([ours(bytes, path).catch(told), within(theirs(bytes, path)).catch(told)]);
  const name = relative(folder, path).split('/models/').pop()!;
  if (typeof mine === 'string' && typeof other === 'string') counts.both++;
  else if (typeof mine === 'string') console.log(`only here ${++counts.ours}: ${name}: ${mine}`);
  else if (typeof other === 'string') console.log(`only there ${++counts.theirs}: ${name}: ${other}`);
  else if (mine.triangles === other.triangles && near(mine.box, other.box)) counts.same++;
  else
    console.log(`OTHER ${++counts.other}: ${name}: ${mine.triangles} triangles in ${mine.box.join(' ')}, there ${other.triangles} in ${other.box.join(' ')}`);
}
console.log(
  `${files.length} models: ${counts.same} the same, ${counts.both} refused by both, ${counts.ours} refused here alone, ${counts.theirs} there alone, ${counts.other} of which the two say other things.`,
);
// Loaders that never answered would be waited for.
process.exit(0);
