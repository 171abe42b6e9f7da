import { faceCount, faceStart, gatherRows, hasBorder, type Attribute, type Carrier, type Mesh } from '@filaxis/core';
import { originOf } from './far.js';
import { cornerPoints, pointPlaces, pointValues, smallPolygons } from './meshPieces.js';
import { backsAreSeen } from './openSurface.js';
import type { Interpolation, UsdaSink } from './usdaSink.js';

/** A mesh with its points whole; what differs about a point is given for the corners. */
export function meshPrim(usd: UsdaSink, name: string, given: Mesh): void {
  const mesh = withSmallFaces(given);
  const faces = faceCount(mesh);
  usd.block(
    `def Mesh "${usd.name(name)}"`,
    () => {
      usd.lines('uniform token subdivisionScheme = "none"', 'uniform token orientation = "rightHanded"');
      if (showsBacks(mesh)) usd.lines('uniform bool doubleSided = 1');
      usd.numbers(
        'int[] faceVertexCounts',
        Uint32Array.from({ length: faces }, (_, f) => faceStart(mesh, f + 1) - faceStart(mesh, f)),
      );
      usd.numbers('int[] faceVertexIndices', cornerPoints(mesh));
      usd.tuples('point3f[] points', pointPlaces(mesh), 3);
      usd.place(originOf(mesh.attributes));
      normals(usd, mesh);
      for (const [set, primvar] of [['uv', 'st'], ['uv2', 'st1']] as const) named(usd, mesh, 'texCoord2f', set, primvar); // prettier-ignore
      named(usd, mesh, 'color3f', 'colour', 'displayColor');
      usd.values(mesh.attributes, (carrier) => lying(mesh, carrier));
      materialSubsets(usd, mesh);
    },
    'prepend apiSchemas = ["MaterialBindingAPI"]',
  );
}

/** A mesh whose faces have up to four corners: some readers leave larger ones out. */
function withSmallFaces(mesh: Mesh): Mesh {
  const { corners, starts, faceOf } = smallPolygons(mesh);
  if (!faceOf || faceOf.length === faceCount(mesh)) return mesh;
  const attributes = new Map(
    [...mesh.attributes].map(([name, each]) => [name, each.carrier === 'face' ? { ...each, data: gatherRows(each, faceOf) } : each] as const),
  );
  return { ...mesh, corners, faceStarts: starts, attributes };
}

/** Whether any of its faces shows its back: the prim can only say it for all. */
const showsBacks = (mesh: Mesh): boolean => {
  const open = hasBorder(mesh);
  return mesh.materials.length ? mesh.materials.some((material) => backsAreSeen(material, open)) : open;
};

/** How values of a carrier lie on the prim. */
function lying({ corners }: Mesh, carrier: Carrier): Interpolation | null {
  if (carrier === 'corner') return { interpolation: 'faceVarying', indices: corners };
  if (carrier === 'face') return { interpolation: 'uniform' };
  return carrier === 'whole' ? { interpolation: 'constant' } : null;
}

/** A value on a name of the format's own: for the points where each has one, else for the corners. */
function named(usd: UsdaSink, mesh: Mesh, type: string, name: string, primvar: string): void {
  const attribute = mesh.attributes.get(name);
  const size = type === 'color3f' ? 3 : 2;
  if (!attribute || attribute.size < size) return;
  const cut = attribute.size === size ? attribute : { ...attribute, size, data: firstOf(attribute, size) };
  const whole = cut.carrier === 'corner' ? pointValues(mesh, cut) : null;
  const how = whole ? ({ interpolation: 'vertex' } as const) : lying(mesh, cut.carrier);
  if (how) usd.primvar(type, primvar, whole ? { size, data: whole } : cut, how);
}

const firstOf = ({ size, data }: Attribute, count: number): Float32Array =>
  Float32Array.from({ length: (data.length / size) * count }, (_, i) => data[Math.floor(i / count) * size + (i % count)]);

function normals(usd: UsdaSink, mesh: Mesh): void {
  const normal = mesh.attributes.get('normal');
  if (normal?.carrier !== 'corner' || normal.size !== 3) return;
  const whole = pointValues(mesh, normal);
  if (whole) usd.tuples('normal3f[] normals', whole, 3, 'vertex');
  // One a corner, since more readers know `normals` than primvars of that name, which alone could be numbered.
  else usd.tuples('normal3f[] normals', gatherRows(normal, mesh.corners), 3, 'faceVarying');
}

function materialSubsets(usd: UsdaSink, mesh: Mesh): void {
  const own = mesh.attributes.get('material')?.data;
  mesh.materials.forEach((material, m) => {
    const which = Array.from({ length: faceCount(mesh) }, (_, f) => f).filter((f) => own?.[f] === m);
    if (!which.length) return;
    const at = usd.materials.push(material) - 1;
    usd.block(
      `def GeomSubset "part${m}"`,
      () => {
        usd.lines('uniform token elementType = "face"', 'uniform token familyName = "materialBind"');
        usd.numbers('int[] indices', which);
        usd.lines(`rel material:binding = </${usd.root}/materials/${usd.materialName(at)}>`);
      },
      'prepend apiSchemas = ["MaterialBindingAPI"]',
    );
  });
}
