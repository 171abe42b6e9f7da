import { BufferAttribute, BufferGeometry, DynamicDrawUsage, Sphere, Vector3 } from 'three';
import type { MeshPicture, Picture } from '@filaxis/protocol';
import { edgesOf } from './lines';
import { spread, spreadValues } from './spread';

interface Spread {
  readonly of: readonly (Float32Array | null)[];
  readonly surface: BufferGeometry;
  wire: BufferGeometry | null;
}

interface Kept {
  readonly surface: BufferGeometry;
  /** Edges over the same places; made when they are first asked for. */
  wire: BufferGeometry | null;
  /** Both as one geometry for all copies, and what that was made of. */
  spread: Spread | null;
  used: boolean;
}

/**
 * The surfaces in view as the graphics memory holds them. A picture that has the triangles of the one before is written over it, and what it shares with that
 * does not go there again: a dial that is dragged sends places and normals alone.
 */
export class Surfaces {
  private kept = new Map<Uint32Array, Kept>();

  /** The surface of a mesh within `bounds`; with `colours` (3 numbers a vertex) if there are any. */
  surfaceOf(picture: MeshPicture, colours: Float32Array | null, bounds: Picture['bounds']): BufferGeometry {
    const kept = this.keptFor(picture);
    const { surface } = kept;
    kept.used = true;
    write(surface, 'position', picture.positions, 3);
    write(surface, 'normal', picture.normals, 3);
    write(surface, 'uv', picture.uv, 2);
    write(surface, 'color', colours, 3);
    if (!surface.index) surface.setIndex(new BufferAttribute(picture.indices, 1));
    surface.clearGroups();
    picture.groups.forEach(({ start, count }, i) => surface.addGroup(start, count, i));
    surface.boundingSphere = sphereOf(bounds);
    return surface;
  }

  /** The polygon edges of a mesh whose surface was asked for before. */
  wireOf(picture: MeshPicture): BufferGeometry {
    const kept = this.keptFor(picture);
    kept.wire ??= new BufferGeometry().setIndex(new BufferAttribute(edgesOf(picture), 1));
    kept.wire.setAttribute('position', kept.surface.getAttribute('position'));
    kept.wire.boundingSphere = kept.surface.boundingSphere;
    return kept.wire;
  }

  /** The surface of copies, spread out; `colours`: 3 numbers a copy. Asked for after `surfaceOf`. */
  spreadOf(picture: MeshPicture, matrices: Float32Array, colours: Float32Array | null): BufferGeometry {
    const kept = this.keptFor(picture);
    const of = [matrices, picture.positions, picture.normals, picture.uv];
    if (!kept.spread?.of.every((each, i) => each === of[i])) {
      freeSpread(kept.spread);
      kept.spread = { of, surface: spread(kept.surface, matrices, 3), wire: null };
      kept.spread.surface.boundingSphere = kept.surface.boundingSphere;
    }
    const own = kept.surface.getAttribute('color') as BufferAttribute | undefined;
    const vertices = picture.positions.length / 3;
    const all = colours ? spreadValues(colours, 3, vertices) : own ? repeated(own.array as Float32Array, matrices.length / 16) : null;
    write(kept.spread.surface, 'color', all, 3);
    return kept.spread.surface;
  }

  /** The polygon edges of copies, spread out. Asked for after `spreadOf`. */
  spreadWireOf(picture: MeshPicture, matrices: Float32Array): BufferGeometry {
    const { spread: made } = this.keptFor(picture);
    return (made!.wire ??= spread(this.wireOf(picture), matrices, 2));
  }

  /** Bytes that the graphics hold. */
  get bytes(): number {
    const held = [...this.kept.values()].flatMap(({ surface, wire, spread: made }) => (made ? [made.surface, made.wire] : [surface, wire]));
    const sizes = held.flatMap((each) => (each ? [...Object.values(each.attributes), each.index] : []));
    return sizes.reduce((sum, each) => sum + (each?.array.byteLength ?? 0), 0);
  }

  /** Forgets what was not asked for since the last time. Surfaces that are not kept are their users' to free. */
  sweep(): void {
    for (const [indices, kept] of this.kept)
      if (kept.used) kept.used = false;
      else {
        this.kept.delete(indices);
        free(kept);
      }
  }

  dispose(): void {
    this.kept.forEach(free);
    this.kept.clear();
  }

  private keptFor({ indices, positions }: MeshPicture): Kept {
    let kept = this.kept.get(indices);
    // What is in the graphics memory has its size for good.
    if (kept && kept.surface.getAttribute('position').array.length !== positions.length) {
      free(kept);
      kept = undefined;
    }
    if (!kept) this.kept.set(indices, (kept = { surface: new BufferGeometry(), wire: null, spread: null, used: false }));
    return kept;
  }
}

/** Puts numbers in the place of an attribute's; those that are there already are not sent again. */
function write(geometry: BufferGeometry, name: string, numbers: Float32Array | null, size: number): void {
  const known = geometry.getAttribute(name) as BufferAttribute | undefined;
  if (!numbers) geometry.deleteAttribute(name);
  else if (known?.array.length !== numbers.length) geometry.setAttribute(name, new BufferAttribute(numbers, size).setUsage(DynamicDrawUsage));
  else if (known.array !== numbers) {
    known.array = numbers;
    known.needsUpdate = true;
  }
}

function sphereOf(bounds: Picture['bounds']): Sphere {
  const [low, high] = [bounds?.min ?? [0, 0, 0], bounds?.max ?? [0, 0, 0]].map((place) => new Vector3().fromArray(place as number[]));
  return new Sphere(low.clone().add(high).multiplyScalar(0.5), low.distanceTo(high) / 2);
}

function free({ surface, wire, spread: made }: Kept): void {
  surface.dispose();
  wire?.dispose();
  freeSpread(made);
}

function freeSpread(made: Spread | null): void {
  made?.surface.dispose();
  made?.wire?.dispose();
}

/** The same numbers again and again. */
function repeated(numbers: Float32Array, times: number): Float32Array {
  const all = new Float32Array(numbers.length * times);
  for (let i = 0; i < times; i++) all.set(numbers, i * numbers.length);
  return all;
}
