import { type Curves } from '../../geometry/curves.js';
import { countsOf } from '../../geometry/geometry.js';
import { type Mesh } from '../../geometry/mesh.js';
import { makePoints, type Points } from '../../geometry/points.js';
import { affineFrom, transformGeometry } from '../../geometry/transform.js';
import { type RunContext } from '../../definition/define.js';
import type { ValuesOf } from '../../definition/settings.js';

export const fileSettings = {
  asset: { kind: 'asset', label: 'File', help: 'The imported file.', default: '' },
  scale: { kind: 'number', label: 'Scale', help: 'Metres per unit of the file.', default: 1, min: 0, above: true, unit: 'm', step: 0.001 },
  up: { kind: 'choice', label: 'Up', help: 'Which axis of the file points up.', default: 'y', choices: { y: 'Y', z: 'Z' } },
} as const;

export type FileSettings = ValuesOf<typeof fileSettings>;

/** The rows of a table, or the points of lines, by themselves. */
export const pointsOfCurves = ({ positions, attributes }: Curves): Points =>
  makePoints(positions, new Map([...attributes].filter(([name, { carrier }]) => carrier === 'whole' || (carrier === 'point' && !name.startsWith('handle')))));

/** Files have what they have: what a node looks for in them, in words. */
export const missing = {
  curves: 'no lines, so there are no curves in it',
  mesh: 'no faces, so there is no mesh in it',
  points: 'no points of their own',
} as const;

/** One kind of geometry of the chosen file, sized and stood up; null: no file is chosen yet. @throws RangeError when the file has none of it. */
export function taken({ settings, imported, warn, claim }: RunContext<FileSettings>, kind: 'curves' | 'mesh' | 'points'): Curves | Mesh | Points | null {
  if (!settings.asset) {
    warn({ code: 'empty', message: 'No file is chosen yet.', remedy: 'Drop a file on the graph, or choose one in the settings.' });
    return null;
  }
  const file = imported(settings.asset);
  const found = file[kind] ?? (kind === 'points' && file.curves && !file.mesh ? pointsOfCurves(file.curves) : undefined);
  if (!found?.positions.length) throw new RangeError(`The file has ${missing[kind]}.`);
  claim(countsOf(found));
  const far = found.attributes.get('origin');
  if (far?.carrier === 'whole')
    warn({
      code: 'too-large',
      message: `The file lies far from the origin (near ${Array.from(far.data, (value) => value.toLocaleString('en-GB')).join(', ')}), where positions would be too coarse; it was moved near it.`,
      remedy: 'Files are written where it was, except STL; move what you join it with by as much.',
    });
  const { scale } = settings;
  const turn = settings.up === 'z' ? -90 : 0;
  return transformGeometry(found, affineFrom({ move: [0, 0, 0], turn: [turn, 0, 0], size: [scale, scale, scale], pivot: [0, 0, 0] }));
}
