import type { Facing } from '../../curves/evaluate/plane.js';

/** Which side of its plane a flat curve is seen from. Documents before edition 2 went by the nearest axis, which flips as an upright curve is turned. */
export const facingSettings = {
  facing: {
    kind: 'choice',
    label: 'Seen from',
    help: 'Above, or for upright curves the side given by the way they run; the side that a direction points to; or the positive side of the nearest axis.',
    default: 'own',
    choices: { own: 'above or its own side', direction: 'a direction', axis: 'the nearest axis' },
    earlier: { before: 2, default: 'axis' },
  },
  facingTo: {
    kind: 'vector',
    label: 'Direction',
    help: 'Points to the side that the curve is seen from.',
    default: [0, 0, 1],
    direction: true,
    shownWhen: { facing: ['direction'] },
  },
} as const;

/** The settings as the kernels take them. */
export const facingOf = ({
  facing,
  facingTo,
}: {
  readonly facing: 'own' | 'direction' | 'axis';
  readonly facingTo: readonly [number, number, number];
}): Facing => (facing === 'direction' ? facingTo : facing);
