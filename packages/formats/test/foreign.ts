/** Readers that are not ours, set up to run without a window. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { ImportMeshAsync, NullEngine, Scene, type AbstractMesh } from '@babylonjs/core';
import '@babylonjs/loaders/glTF';

/** A mesh as the USD reader gives it. */
export interface UsdMesh {
  readonly faceVertexIndices: Uint32Array;
  readonly points: Float32Array;
}
interface UsdNode {
  readonly primName: string;
  readonly contentId: number;
  readonly localMatrix: readonly number[];
  readonly children?: readonly UsdNode[];
}

/** What a second reader of USD finds: the meshes that are shown, each with the matrices above it. @throws Error with what it says is wrong. */
export async function usdMeshes(file: Uint8Array): Promise<{ mesh: UsdMesh; place: readonly number[] }[]> {
  const { default: load } = await import('tinyusdz/tinyusdz.js');
  const usd = await asInAPage(() => load({ wasmBinary: readFileSync(createRequire(import.meta.url).resolve('tinyusdz/tinyusdz.wasm')) }));
  const reader = new usd.TinyUSDZLoaderNative();
  if (!reader.loadFromBinary(file, 'file.usda')) throw new Error(reader.error());
  const found: { mesh: UsdMesh; place: readonly number[] }[] = [];
  const visit = (node: UsdNode, above: readonly number[]): void => {
    const place = times(node.localMatrix, above);
    if (node.contentId >= 0) found.push({ mesh: reader.getMesh(node.contentId) as UsdMesh, place });
    node.children?.forEach((child) => visit(child, place));
  };
  visit(reader.getDefaultRootNode() as UsdNode, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
  return found;
}

/** Takes a step as if in a page, for what is built for pages and asks where it runs; afterwards it is Node again, for others who ask. */
async function asInAPage<T>(step: () => Promise<T>): Promise<T> {
  Object.assign(process, { type: 'renderer' });
  Object.assign(globalThis, { window: globalThis });
  try {
    return await step();
  } finally {
    delete (process as { type?: string }).type;
    delete (globalThis as { window?: unknown }).window;
  }
}

/** The product of matrices for row vectors. */
const times = (a: readonly number[], b: readonly number[]): number[] =>
  Array.from({ length: 16 }, (_, i) => [0, 1, 2, 3].reduce((sum, k) => sum + a[Math.floor(i / 4) * 4 + k] * b[k * 4 + (i % 4)], 0));

/** The volume of triangles where a matrix for row vectors puts them (divergence theorem). */
export function placedVolume(points: ArrayLike<number>, indices: ArrayLike<number>, m: readonly number[]): number {
  const at = (i: number): number[] => [0, 1, 2].map((k) => points[i * 3] * m[k] + points[i * 3 + 1] * m[4 + k] + points[i * 3 + 2] * m[8 + k] + m[12 + k]);
  let volume = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [at(indices[i]), at(indices[i + 1]), at(indices[i + 2])];
    volume += (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6;
  }
  return volume;
}

/** The meshes that a second web engine shows of a GLB file, without a screen. */
export async function engineMeshes(glb: Uint8Array): Promise<AbstractMesh[]> {
  const scene = new Scene(new NullEngine());
  const { meshes } = await ImportMeshAsync(`data:;base64,${Buffer.from(glb).toString('base64')}`, scene, { pluginExtension: '.glb' });
  meshes.forEach((mesh) => mesh.computeWorldMatrix(true));
  return meshes.filter((mesh) => mesh.getTotalVertices() > 0);
}
