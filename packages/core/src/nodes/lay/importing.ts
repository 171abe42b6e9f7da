import { type Curves } from '../../geometry/curves.js';
import { countsOf, type GeometrySet } from '../../geometry/geometry.js';
import { type Mesh } from '../../geometry/mesh.js';
import { makePoints, type Points } from '../../geometry/points.js';
import { measuredAs } from '../../geometry/transform.js';
import { type RunContext } from '../../definition/define.js';
import type { AssetSetting, ValuesOf } from '../../definition/settings.js';

/** What may be in files, how its absence is told, and the endings of files that may have it. */
const contents = {
  curves: { holds: 'curves', absent: 'no lines, so there are no curves in it', endings: ['.svg', '.csv', '.obj', '.geojson', '.glb', '.gltf'] },
  mesh: { holds: 'mesh', absent: 'no faces, so there is no mesh in it', endings: ['.glb', '.gltf', '.obj', '.stl', '.ply'] },
  points: { holds: 'points', absent: 'no points of their own', endings: ['.ply', '.obj', '.glb', '.gltf', '.csv'] },
} as const;
type Content = keyof typeof contents;

const fileSettings = {
  scale: { kind: 'number', label: 'Scale', help: 'Metres per unit of the file.', default: 1, min: 0, above: true, unit: 'm', step: 0.001 },
  up: { kind: 'choice', label: 'Up', help: 'Which axis of the file points up.', default: 'y', choices: { y: 'Y', z: 'Z' } },
} as const;

/** The settings of a node that takes `content` from a file. */
export const fileSettingsFor = <C extends Content>(content: C): { readonly asset: { readonly kind: 'asset' } & AssetSetting } & typeof fileSettings => ({
  asset: { kind: 'asset', label: 'File', help: 'The imported file.', default: '', ...contents[content] },
  ...fileSettings,
});
type FileSettings = ValuesOf<typeof fileSettings> & { readonly asset: string };

/** The rows of a table, or the points of lines, by themselves. */
const pointsOfCurves = ({ positions, attributes }: Curves): Points =>
  makePoints(positions, new Map([...attributes].filter(([name, { carrier }]) => carrier === 'whole' || (carrier === 'point' && !name.startsWith('handle')))));

/** One kind of geometry of the chosen file, sized and stood up; null: no file is chosen yet. @throws RangeError when the file has none of it. */
export function taken<C extends Content>(
  { settings, imported, warn, claim }: Pick<RunContext<FileSettings>, 'settings' | 'imported' | 'warn' | 'claim'>,
  kind: C,
): Required<GeometrySet>[C] | null {
  if (!settings.asset) {
    warn({ code: 'empty', message: 'No file is chosen yet.', remedy: 'Drop a file on the graph, or choose one in the settings.' });
    return null;
  }
  const file = imported(settings.asset);
  const found: Curves | Mesh | Points | undefined = file[kind] ?? (kind === 'points' && file.curves && !file.mesh ? pointsOfCurves(file.curves) : undefined);
  if (!found?.positions.length) throw new RangeError(`The file has ${contents[kind].absent}.`);
  claim(countsOf(found));
  const far = found.attributes.get('origin');
  if (far?.carrier === 'whole')
    warn({
      code: 'too-large',
      message: `The file lies far from the origin (near ${Array.from(far.data, (value) => value.toLocaleString('en-GB')).join(', ')}), where positions would be too coarse; it was moved near it.`,
      remedy: 'Files are written where it was, except STL; move what you join it with by as much.',
    });
  return measuredAs(found, settings.up === 'z' ? -90 : 0, settings.scale) as Required<GeometrySet>[C];
}
