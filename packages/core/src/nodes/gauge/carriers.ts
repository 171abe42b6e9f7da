import { type Carrier } from '../../geometry/attributes.js';
import type { Geometry } from '../../geometry/geometry.js';

export const carriers = {
  whole: 'the whole',
  curves: 'curves',
  faces: 'faces',
  corners: 'corners',
  points: 'points',
  copies: 'copies',
} as const;

/** The carrier that a choice means on a geometry: a mesh keeps values of points with its vertices. */
export function carrierOf(choice: keyof typeof carriers, geometry: Geometry): Carrier {
  if (choice === 'whole') return 'whole';
  const carrier = ({ points: 'point', curves: 'curve', corners: 'corner', faces: 'face', copies: 'copy' } as const)[choice];
  return carrier === 'point' && geometry.type === 'mesh' ? 'corner' : carrier;
}
