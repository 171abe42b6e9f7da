import { distinctNames, isEmptyResult, linearColour, matrixColumns, type GeometrySet, type Material, type Piece } from '@filaxis/core';
import { originOf } from './far.js';
import { namedParts } from './meshPieces.js';
import { metres } from './units.js';
import { UsdaSink } from './usdaSink.js';
import { curvesPrims } from './usdaCurves.js';
import { meshPrim } from './usdaMesh.js';
import type { Out, WriteOptions } from './writeOptions.js';

/**
 * Results as USD text (Universal Scene Description, open standard; from memory): meshes with normals, UVs, values (primvars) and materials, curves as linear or cubic Bezier basis curves
 * with their widths, points, and copies each with its object, or as references to the first of them. Points are whole where normals or UVs differ about them. UVs with their
 * origin at the bottom left.
 */
export function writeUsda(pieces: readonly Piece[], name: string, options: WriteOptions, out: Out): void {
  const usd = new UsdaSink(out, name);
  header(usd, options);
  usd.block(`def Xform "${usd.root}"`, () => {
    allPieces(usd, pieces, options);
    materialsScope(usd);
  });
  usd.end();
}

function header(usd: UsdaSink, { up = 'y', unit = 'm' }: WriteOptions, ...more: string[]): void {
  usd.lines('#usda 1.0', '(');
  usd.lines(
    `    defaultPrim = "${usd.root}"`,
    '    doc = "Filaxis"',
    `    metersPerUnit = ${metres[unit]}`,
    `    upAxis = "${up.toUpperCase()}"`,
    ...more,
    ')',
    '',
  );
}

/** Each piece in a prim of its own name; one that the whole is called after stands by itself. */
function allPieces(usd: UsdaSink, pieces: readonly Piece[], options: WriteOptions): void {
  if (pieces.length === 1 && usd.name(pieces[0].name) === usd.root) return contents(usd, pieces[0].set, options, `/${usd.root}`);
  const names = distinctNames(pieces.map(({ name }) => usd.name(name)), '_', ['materials']); // prettier-ignore
  pieces.forEach(({ set }, i) => usd.block(`def Xform "${names[i]}"`, () => contents(usd, set, options, `/${usd.root}/${names[i]}`)));
}

/** `path`: that of the prim in which it stands. */
function contents(usd: UsdaSink, { mesh, curves, points, copies }: GeometrySet, { instances = false, parts }: WriteOptions, path: string): void {
  if (mesh?.corners.length) for (const [own, part] of namedParts(mesh, 'mesh', parts)) meshPrim(usd, own, part);
  if (curves?.positions.length) curvesPrims(usd, curves);
  if (points?.positions.length)
    usd.block('def Points "points"', () => {
      usd.tuples('point3f[] points', points.positions, 3);
      usd.values(points.attributes, (carrier) => (carrier === 'point' ? { interpolation: 'vertex' } : null));
      usd.place(originOf(points.attributes));
    });
  if (copies?.object.length) copiesPrims(usd, copies, instances, path);
}

function materialsScope(usd: UsdaSink): void {
  if (!usd.materials.length) return;
  usd.block('def Scope "materials"', () => {
    usd.materials.forEach((material, i) => materialPrim(usd, material, i));
  });
}

/** Frames of an animation, both ends included, and how many there are in a second. */
export interface FrameSpan {
  readonly from: number;
  readonly to: number;
  readonly rate: number;
}

/**
 * Frames of an animation as one USD text: each is a prim of its own that is seen at its time alone (time samples of its visibility), so that anything may change from frame to
 * frame. Pieces go out as they are made.
 */
export class UsdaFrames {
  private readonly usd: UsdaSink;

  constructor(
    out: Out,
    name: string,
    { from, to, rate }: FrameSpan,
    private readonly options: WriteOptions,
  ) {
    this.usd = new UsdaSink(out, name);
    header(this.usd, options, `    startTimeCode = ${from}`, `    endTimeCode = ${to}`, `    timeCodesPerSecond = ${rate}`, `    framesPerSecond = ${rate}`);
    this.usd.begin(`def Xform "${this.usd.root}"`);
  }

  add(frame: number, pieces: readonly Piece[]): void {
    if (pieces.every(({ set }) => isEmptyResult(set))) return;
    this.usd.block(`def Xform "frame_${frame < 0 ? 'minus_' : ''}${Math.abs(frame)}"`, () => {
      this.usd.lines('token visibility.timeSamples = {', `    ${frame - 1}: "invisible",`, `    ${frame}: "inherited",`, `    ${frame + 1}: "invisible",`, '}');
      // Copies stand in prims of their frame, where others could not refer to them.
      allPieces(this.usd, pieces, { ...this.options, instances: false });
    });
  }

  end(): void {
    materialsScope(this.usd);
    this.usd.close();
    this.usd.end();
  }
}

/** Every copy holds its object, which every reader finds; by choice the first does and the others refer to it, which some do not follow. */
function copiesPrims(usd: UsdaSink, copies: NonNullable<GeometrySet['copies']>, instances: boolean, path: string): void {
  const { objects, object } = copies;
  const origin = originOf(copies.attributes);
  const first = new Map<number, number>();
  for (let i = 0; i < object.length; i++) {
    const before = instances ? first.get(object[i]) : undefined;
    if (before === undefined) first.set(object[i], i);
    usd.block(`def Xform "copy${i}"`, () => {
      usd.matrix(matrixColumns(copies, i), origin);
      if (before === undefined) usd.block('def Xform "object"', () => meshPrim(usd, 'mesh', objects[object[i]]));
      else usd.block('def Xform "object"', () => undefined, `prepend references = <${path}/copy${before}/object>`);
    });
  }
}

function materialPrim(usd: UsdaSink, material: Material, at: number): void {
  const name = usd.materialName(at);
  usd.block(`def Material "${name}"`, () => {
    usd.lines(`token outputs:surface.connect = </${usd.root}/materials/${name}/surface.outputs:surface>`);
    usd.block('def Shader "surface"', () => {
      usd.lines(
        'uniform token info:id = "UsdPreviewSurface"',
        `color3f inputs:diffuseColor = (${linearColour(material.colour).map(usd.number).join(', ')})`,
        `float inputs:roughness = ${usd.number(material.roughness)}`,
        `float inputs:metallic = ${usd.number(material.metalness)}`,
        `float inputs:opacity = ${usd.number(material.opacity)}`,
        'token outputs:surface',
      );
    });
  });
}
