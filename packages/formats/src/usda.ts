import { linearColour, matrixColumns, type GeometrySet, type Material } from '@filaxis/core';
import { FormatError } from './errors.js';
import { originOf } from './far.js';
import { namedParts } from './meshPieces.js';
import { metres } from './units.js';
import { UsdaSink } from './usdaSink.js';
import { curvesPrims } from './usdaCurves.js';
import { meshPrim } from './usdaMesh.js';
import type { Out, WriteOptions } from './writeOptions.js';

/**
 * A result as USD text (Universal Scene Description, open standard; from memory): meshes with normals, UVs, values (primvars) and materials, curves as linear or cubic Bezier basis curves
 * with their widths, points, and copies each with its object, or as references to the first of them. Points are whole where normals or UVs differ about them. UVs with their
 * origin at the bottom left.
 * @throws FormatError when there is nothing to write.
 */
export function writeUsda(set: GeometrySet, name: string, { up = 'y', unit = 'm', instances = false, parts }: WriteOptions, out: Out): void {
  const { mesh, curves, points, copies } = set;
  if (!mesh?.corners.length && !curves?.positions.length && !points?.positions.length && !copies?.object.length)
    throw new FormatError('There is nothing to write: the result is empty.');
  const usd = new UsdaSink(out, name);
  usd.lines('#usda 1.0', '(');
  usd.lines(`    defaultPrim = "${usd.root}"`, '    doc = "Filaxis"', `    metersPerUnit = ${metres[unit]}`, `    upAxis = "${up.toUpperCase()}"`, ')', '');
  usd.block(`def Xform "${usd.root}"`, () => {
    if (mesh?.corners.length) {
      const named = namedParts(mesh, 'mesh', parts);
      for (const [own, part] of named) meshPrim(usd, own, part);
    }
    if (curves?.positions.length) curvesPrims(usd, curves);
    if (points?.positions.length)
      usd.block('def Points "points"', () => {
        usd.tuples('point3f[] points', points.positions, 3);
        usd.values(points.attributes, (carrier) => (carrier === 'point' ? { interpolation: 'vertex' } : null));
        usd.place(originOf(points.attributes));
      });
    if (copies?.object.length) copiesPrims(usd, copies, instances);
    if (usd.materials.length)
      usd.block('def Scope "materials"', () => {
        usd.materials.forEach((material, i) => materialPrim(usd, material, i));
      });
  });
  usd.end();
}

/** Every copy holds its object, which every reader finds; by choice the first does and the others refer to it, which some do not follow. */
function copiesPrims(usd: UsdaSink, copies: NonNullable<GeometrySet['copies']>, instances: boolean): void {
  const { objects, object } = copies;
  const origin = originOf(copies.attributes);
  const first = new Map<number, number>();
  for (let i = 0; i < object.length; i++) {
    const before = instances ? first.get(object[i]) : undefined;
    if (before === undefined) first.set(object[i], i);
    usd.block(`def Xform "copy${i}"`, () => {
      usd.matrix(matrixColumns(copies, i), origin);
      if (before === undefined) usd.block('def Xform "object"', () => meshPrim(usd, 'mesh', objects[object[i]]));
      else usd.block('def Xform "object"', () => undefined, `prepend references = </${usd.root}/copy${before}/object>`);
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
