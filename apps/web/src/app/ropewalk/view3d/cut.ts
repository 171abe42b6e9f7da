import { Vector3 } from 'three';
import type { Knob, Triple } from '@filaxis/core';

/** A plane that the view is cut by: what lies on the side that its normal points to is left away. */
export interface Cut {
  readonly point: Triple;
  readonly normal: Triple;
}

const axes = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const;
export type CutAxis = keyof typeof axes;

/** A cut square to an axis. */
export const cutAcross = (point: Triple, axis: CutAxis): Cut => ({ point, normal: axes[axis] });

/** Which axis a cut is square to. */
export function axisOf(cut: Cut | null): CutAxis | 'own' {
  const found = (Object.keys(axes) as CutAxis[]).find((axis) => cut?.normal.every((value, k) => Math.abs(Math.abs(value) - axes[axis][k]) < 1e-6));
  return found ?? 'own';
}

const triple = (v: Vector3): Triple => v.toArray();

/** Knobs that move a cut along its normal and turn it; what they give is a cut. */
export function cutKnobs({ point, normal }: Cut, arm: number): (Knob & { to(place: Triple): Cut })[] {
  const n = new Vector3(...normal).normalize();
  const from = new Vector3(...point);
  const away = from.dot(n);
  const at = (distance: number): Cut => ({ point: triple(from.clone().addScaledVector(n, distance - away)), normal });
  const turned = (place: Triple): Cut => ({ point, normal: triple(new Vector3(...place).sub(from).normalize()) });
  const both = { setting: 'cut', root: point, axis: triple(n), step: 0.01 };
  return [
    { ...both, id: 'cut', label: 'Cut', unit: 'm', moves: 'along', at: point, values: [away], to: (place) => at(new Vector3(...place).dot(n)), typed: at },
    { ...both, id: 'cut.way', label: 'Way of the cut', unit: '', moves: 'aim', at: triple(from.clone().addScaledVector(n, arm * 1.6)), values: triple(n), to: turned, typed: null },
  ]; // prettier-ignore
}
