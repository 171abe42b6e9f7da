import type { InstancedMesh } from 'three';
import { Vector3, type Mesh, type Object3D } from 'three';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { MeshPicture, Picture } from '@filaxis/protocol';
import { Content, discard } from '../../src/app/ropewalk/view3d/content';
import type { StageInks } from '../../src/app/ropewalk/view3d/stage-objects';
import { plainOptions, type StageOptions } from '../../src/app/ropewalk/view3d/stage-options';

const inks = new Proxy({}, { get: () => '#123456' }) as StageInks;

const mesh = (values: Float32Array | null = null): MeshPicture => ({
  positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0),
  normals: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1),
  uv: Float32Array.of(0, 0, 1, 0, 0, 1),
  indices: Uint32Array.of(0, 1, 2),
  groups: [{ start: 0, count: 3, material: { name: 'a', colour: '#808080', roughness: 1, metalness: 0.5, opacity: 1, checker: false }, backs: false } as never],
  edges: Uint32Array.of(0, 1, 1, 2, 2, 0),
  values,
});
const unit = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
const picture = (more: Partial<Picture> = {}): Picture => ({
  mesh: mesh(),
  copies: [{ mesh: mesh(), matrices: Float32Array.of(...unit, ...unit), values: null }],
  curves: null,
  counts: {} as never,
  bounds: { min: [0, 0, 0], max: [3, 4, 0] },
  budget: 0,
  ghost: null,
  names: [],
  colour: null,
  ...more,
});

describe('what comes out, as objects', () => {
  let content: Content;
  beforeEach(() => {
    const brush = new Proxy({}, { get: () => () => undefined, set: () => true });
    vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(brush as never);
    content = new Content(plainOptions, inks, { uniforms: {} as never }, false);
  });
  const show = (options: Partial<StageOptions> = {}, shown = picture(), edges: Float32Array | null = null): Object3D[] =>
    content.show(shown, edges, { ...plainOptions, ...options }, inks);
  const names = (): string[] => content.group.children.map(({ name }) => name);
  const named = (name: string): Mesh => content.group.children.find((each) => each.name === name) as Mesh;

  test('a mesh and its copies are one object each; wire, outlines, pins and inked edges are drawn beside them where asked', () => {
    show();
    expect(names()).toEqual(['mesh', 'mesh']);
    show({ wire: true });
    expect(names()).toEqual(['mesh', 'edges', 'mesh', 'wire']);
    const wire = named('wire') as unknown as InstancedMesh & { isLineSegments: boolean };
    expect([wire.count, wire.isMesh, wire.isLineSegments]).toEqual([2, false, true]);
    show({ surface: 'ink' }, picture(), new Float32Array(6));
    expect(names()).toEqual(['mesh', 'outline', 'mesh', 'outline', 'edges']);
    show({ pins: 'vertices' });
    expect(names()).toEqual(['mesh', 'pins', 'mesh']);
    // Edges are only there where they are to be seen.
    show({}, picture(), new Float32Array(6));
    expect(names()).toEqual(['mesh', 'mesh']);
  });

  test('where software draws, copies are one large thing each, with their colours and wire', () => {
    content = new Content(plainOptions, inks, { uniforms: {} as never }, true);
    const shown = picture({ mesh: null });
    show({ wire: true, surface: 'parts' }, shown);
    expect(content.group.children.map((each) => [each.name, (each as InstancedMesh).isInstancedMesh ?? false])).toEqual([['mesh', false], ['wire', false]]); // prettier-ignore
    const [surface, wire] = content.group.children as Mesh[];
    expect([surface.geometry.getAttribute('position').count, surface.geometry.index!.count, wire.geometry.index!.count]).toEqual([6, 6, 12]);
    const colours = [...(surface.geometry.getAttribute('color').array as Float32Array)];
    expect(colours.slice(0, 3)).toEqual(colours.slice(6, 9));
    expect(colours.slice(0, 3)).not.toEqual(colours.slice(9, 12));
    // What is looked at in another way is the same thing; other places are another.
    show({}, shown);
    expect((content.group.children[0] as Mesh).geometry).toBe(surface.geometry);
    show({}, { ...shown, copies: [{ ...shown.copies[0], matrices: Float32Array.of(...unit) }] });
    expect((content.group.children[0] as Mesh).geometry.getAttribute('position').count).toBe(3);
  });

  test('a cut cuts surfaces and lines alike, and what is cut away is not there', () => {
    show({ cut: { point: [1, 0, 0], normal: [2, 0, 0] }, wire: true });
    for (const each of content.group.children) for (const material of [(each as Mesh).material].flat()) expect(material.clippingPlanes!.length).toBe(1);
    expect([content.isCut(new Vector3(1.1, 0, 0)), content.isCut(new Vector3(0.9, 0, 0))]).toEqual([true, false]);
    show();
    expect(content.isCut(new Vector3(1.1, 0, 0))).toBe(false);
  });

  test('shadows fall where light does, and of no more copies than are worth it', () => {
    show();
    expect([named('mesh').castShadow, named('mesh').receiveShadow]).toEqual([true, true]);
    show({ surface: 'depth' });
    expect(named('mesh').receiveShadow).toBe(false);
    const many = new Float32Array(200_001 * 16);
    show({}, picture({ mesh: null, copies: [{ mesh: mesh(), matrices: many, values: null }] }));
    expect(named('mesh').castShadow).toBe(false);
  });

  test('values become colours of vertices, parts have colours of their own, copies too', () => {
    const coloured = picture({ mesh: mesh(Float32Array.of(0, 0.5, 1)), colour: { name: 't', low: 0, high: 1 } });
    show({ surface: 'colour', colour: 't' }, coloured);
    const first = [...(named('mesh').geometry.getAttribute('color').array as Float32Array)];
    show({ surface: 'colour', colour: 't', range: [0.5, 1] }, coloured);
    const narrowed = [...(named('mesh').geometry.getAttribute('color').array as Float32Array)];
    expect(narrowed.slice(0, 3)).toEqual(narrowed.slice(3, 6));
    expect(first.slice(0, 3)).not.toEqual(first.slice(3, 6));
    show({ surface: 'parts' });
    const copies = content.group.children[1] as InstancedMesh;
    expect([...copies.instanceColor!.array].slice(0, 3)).not.toEqual([...copies.instanceColor!.array].slice(3, 6));
    show();
    expect(named('mesh').geometry.getAttribute('color')).toBeUndefined();
  });

  test('knows its size, what it holds, and whether something is to be mirrored', () => {
    show();
    expect(content.extent).toBe(5);
    expect(content.bytes).toBeGreaterThan(2 * 16 * 4);
    expect(content.mirrors).toBe(true);
    show({ surface: 'clay' });
    expect(content.mirrors).toBe(false);
  });

  test('what is not shown any more is handed back to be freed, and shared surfaces are not freed with it', () => {
    const shown = picture();
    show({ wire: true }, shown);
    const before = [...content.group.children];
    const surface = named('mesh').geometry;
    const lines = named('edges').geometry;
    const freed: unknown[] = [];
    for (const each of [surface, lines]) each.addEventListener('dispose', () => freed.push(each));
    const outgoing = show({}, shown);
    expect(outgoing).toEqual(before);
    outgoing.forEach((object) => discard(object, (material) => material.dispose()));
    expect(freed).toEqual([lines]);
  });
});
