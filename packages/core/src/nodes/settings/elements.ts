import type { Carrier } from '../../geometry/attributes.js';
import type { Geometry } from '../../geometry/geometry.js';
import { elementCount, type PerElement } from '../../varying/perElement.js';

/** Which elements of a geometry are chosen among. */
export const elementsSetting = {
  kind: 'choice',
  label: 'Of',
  help: 'Which elements: its own are the faces of a mesh, whole curves, points, and copies.',
  default: 'own',
  choices: { own: 'its own elements', points: 'points' },
} as const;

/** What the choice means on a geometry. @throws RangeError when it has none of these. */
export function chosenElements(of: 'own' | 'points', geometry: Geometry): PerElement {
  const own = ({ mesh: 'face', curves: 'curve', points: 'point', copies: 'copy' } as const)[geometry.type];
  const per = of === 'points' ? 'point' : own;
  if (of === 'points' && geometry.type === 'copies') throw new RangeError('Copies have no points; choose their own elements.');
  return elementCount(geometry, per) ? per : own;
}

/** What values of these elements are kept with. */
export const carrierFor = (per: PerElement, geometry: Geometry): Carrier =>
  per === 'point' && geometry.type === 'mesh' ? 'corner' : per === 'whole' ? 'whole' : per;
