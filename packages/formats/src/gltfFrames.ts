import { isEmptyResult, joinSets, withoutCopies, type Mesh, type Piece } from '@filaxis/core';
import { FormatError } from './errors.js';
import { originOf } from './far.js';
import { MeshesOf } from './gltfMesh.js';
import { accessorOf } from './gltfValues.js';
import { moved, newDocument, writeBinary } from './gltfWrite.js';
import type { FrameSpan } from './usda.js';
import type { Out } from './writeOptions.js';

/** Bytes that the targets of a file may have: readers hold all of it at once. */
const mostBytes = 2 ** 30;

/** What a frame moves. */
interface Moved {
  readonly frame: number;
  readonly positions: Float32Array;
  readonly normals: Float32Array | null;
}

const instead = 'Write a file for each frame, or USD, which may have other faces in every frame.';

/**
 * Frames of one mesh as one binary glTF file: the first as it is, each other as a morph target with what its places and normals differ by, and an animation in which each
 * target is whole at its time and fades into the next; at frames of which there is nothing the mesh has no size. Copies go out as one mesh (Khronos, glTF 2.0
 * specification, 3.7.2.2 and 3.11). The first frame is at 0 s.
 */
export class GlbFrames {
  private first: Mesh | null = null;
  /** Numbers of all frames, and whether there is something at each. */
  private readonly all: { readonly frame: number; readonly shown: boolean }[] = [];
  private readonly frames: Moved[] = [];
  private bytes = 0;

  constructor(
    private readonly out: Out,
    private readonly name: string,
    private readonly span: FrameSpan,
  ) {}

  /** @throws FormatError naming the frame, when it holds something else than the mesh of the first frame with other places. */
  add(frame: number, pieces: readonly Piece[]): void {
    const wrong = (what: string): never => {
      throw new FormatError(`Frame ${frame}: ${what} ${instead}`, 'file-a-frame');
    };
    // Copies move with their objects: as one mesh.
    const set = withoutCopies(joinSets(pieces.map((piece) => piece.set)));
    const { mesh, curves, points } = set;
    const shown = !isEmptyResult(set);
    this.all.push({ frame, shown });
    if (!shown) return;
    if (!mesh?.corners.length) return wrong('there is no mesh, and morph targets move one.');
    const others = [curves?.positions.length && 'curves', points?.positions.length && 'points'].filter(Boolean);
    if (others.length) wrong(`morph targets are of meshes alone, and there are ${others.join(' and ')} too.`);
    const normals = mesh.attributes.get('normal')?.data ?? null;
    const before = this.first;
    if (!before) this.first = mesh;
    else if (!isSame(before, mesh)) wrong(`its faces are not those of frame ${this.frames[0].frame}, as morph targets need them.`);
    else if (!normals !== !this.frames[0].normals) wrong(`it has ${normals ? '' : 'no '}normals, unlike frame ${this.frames[0].frame}.`);
    this.bytes += mesh.positions.byteLength * (normals ? 2 : 1);
    if (this.bytes > mostBytes) wrong('all frames together are more than 1 GiB.');
    this.frames.push({ frame, positions: mesh.positions, normals });
  }

  async end(): Promise<void> {
    const { all, first, frames, name, span } = this;
    const document = newDocument();
    if (!first) {
      document.createScene(name).addChild(document.createNode(name));
      return writeBinary(document, this.out);
    }
    const buffer = document.createBuffer();
    const mesh = document.createMesh(name);
    const node = moved(document.createNode(name).setMesh(mesh), originOf(first.attributes));
    document.createScene(name).addChild(node);
    const targets = frames.slice(1);
    new MeshesOf(document, buffer, false).add(first, (primitive, rows) => {
      mesh.addPrimitive(primitive);
      for (const { frame, positions, normals } of targets) {
        const target = document.createPrimitiveTarget(String(frame));
        const put = (semantic: string, data: Float32Array, from: Float32Array): void =>
          void target.setAttribute(semantic, accessorOf(document, buffer, difference(rows(data, 3), rows(from, 3)), 3));
        put('POSITION', positions, frames[0].positions);
        if (normals) put('NORMAL', normals, frames[0].normals!);
        primitive.addTarget(target);
      }
    });
    const animation = document.createAnimation(name);
    const seconds = (list: readonly { readonly frame: number }[]): Float32Array => Float32Array.from(list, ({ frame }) => (frame - all[0].frame) / span.rate);
    const animate = (path: 'weights' | 'scale', times: Float32Array, values: Float32Array, size: 1 | 3, how: 'LINEAR' | 'STEP'): void => {
      const sampler = document.createAnimationSampler().setInput(accessorOf(document, buffer, times, 1)).setOutput(accessorOf(document, buffer, values, size)).setInterpolation(how); // prettier-ignore
      animation.addSampler(sampler).addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
    };
    if (targets.length) {
      mesh.setWeights(targets.map(() => 0)).setExtras({ targetNames: targets.map(({ frame }) => String(frame)) });
      // At the first time all are 0; at each other the one of its own frame is 1.
      const weights = new Float32Array(frames.length * targets.length);
      for (let i = 0; i < targets.length; i++) weights[(i + 1) * targets.length + i] = 1;
      animate('weights', seconds(frames), weights, 1, 'LINEAR');
    }
    if (all.some(({ shown }) => !shown)) {
      const scale = all.flatMap(({ shown }) => [Number(shown), Number(shown), Number(shown)]);
      animate('scale', seconds(all), Float32Array.from(scale), 3, 'STEP');
    }
    if (!animation.listChannels().length) animation.dispose();
    await writeBinary(document, this.out);
  }
}

/** Whether two meshes have the same faces on the same vertices, counted from the same place. */
function isSame(a: Mesh, b: Mesh): boolean {
  return (
    a.positions.length === b.positions.length &&
    sameArrays(a.corners, b.corners) &&
    (a.faceStarts ? !!b.faceStarts && sameArrays(a.faceStarts, b.faceStarts) : a.uniform === b.uniform) &&
    originOf(a.attributes).join() === originOf(b.attributes).join()
  );
}

const sameArrays = (a: Uint32Array, b: Uint32Array): boolean => a.length === b.length && a.every((value, i) => value === b[i]);

const difference = (a: Float32Array, b: Float32Array): Float32Array => a.map((value, i) => value - b[i]);
