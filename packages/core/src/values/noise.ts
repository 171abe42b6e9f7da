import { createNoise3D } from 'simplex-noise';
import { randomAt } from './random.js';

const made = new Map<number, (x: number, y: number, z: number) => number>();

/** Simplex noise (Perlin 2001) in −1…1 over three coordinates: smooth, the same for the same seed on every machine. */
export function noise3(seed: number): (x: number, y: number, z: number) => number {
  let noise = made.get(seed);
  if (!noise) {
    let drawn = 0;
    if (made.size > 100) made.clear();
    made.set(seed, (noise = createNoise3D(() => randomAt(seed, drawn++))));
  }
  return noise;
}
