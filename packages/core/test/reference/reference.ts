import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { expect } from 'vitest';
import { curveKinds, makeCurves, type Curves } from '../../src/index.js';

/** A reference value with its tolerance: |x − value| ≤ max(abs, rel·|value|). */
interface Expected {
  readonly value: unknown;
  readonly abs?: number;
  readonly rel?: number;
  readonly exactMatch?: boolean;
}

interface Case {
  readonly computes: string;
  /** Where the value is published, or how it was derived. */
  readonly source: string;
  readonly inputs: Readonly<Record<string, never>>;
  readonly expected: Readonly<Record<string, Expected>>;
}

const cases = JSON.parse(readFileSync(resolve(import.meta.dirname, 'cases.json'), 'utf8')) as Readonly<Record<string, Case>>;

/** A reference case by its id; `name` says what it is and where its values come from. */
export function reference<I = Record<string, never>>(id: string): { name: string; inputs: I; expected: Case['expected'] } {
  const found = cases[id];
  if (!found) throw new Error(`There is no reference case ${id}.`);
  return { name: `${id}: ${found.computes} [${found.source}]`, inputs: found.inputs as I, expected: found.expected };
}

/** Results are stored in 32 bits; this much of a value may be lost there. */
export const singlePrecision = 1.2e-7;

/** Compares numbers and lists entry by entry with the case's tolerance, or with what `floor` of the value allows if that is more. */
export function expectReference(actual: unknown, { value, abs = 0, rel = 0, exactMatch }: Expected, floor = 0): void {
  if (exactMatch) {
    expect(actual).toEqual(value);
    return;
  }
  const compare = (a: unknown, b: unknown, where: string): void => {
    if (Array.isArray(b)) {
      expect((a as unknown[]).length, `length of ${where}`).toBe(b.length);
      b.forEach((each, i) => compare((a as unknown[])[i], each, `${where}[${i}]`));
      return;
    }
    const allowed = Math.max(abs, rel * Math.abs(b as number), floor);
    expect(Math.abs((a as number) - (b as number)), `${where}: ${String(a)} against ${String(b)}, allowed ${allowed}`).toBeLessThanOrEqual(allowed);
  };
  compare(actual, value, 'value');
}

/** Positions as lists of three. */
export const places = (positions: ArrayLike<number>): number[][] =>
  Array.from({ length: positions.length / 3 }, (_, i) => [positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2]]);

export interface FormulaCurve {
  readonly x: string;
  readonly y: string;
  readonly z: string;
  readonly t: readonly [string, string];
  readonly closed: boolean;
}

/** A function of t from a formula of the reference files. */
function formula(text: string): (t: number) => number {
  const powers = text.replace(/(\bt\b|\([^()]*(?:\([^()]*\)[^()]*)*\))\*\*(\d+)/g, 'Math.pow($1,$2)');
  const script = powers.replace(/(?<!\.)\b(cos|sin|sinh|cosh|sqrt|exp|log|pi)\b/g, (name) => (name === 'pi' ? 'Math.PI' : `Math.${name}`));
  // Test data of our own, not input of anybody's.
  return new Function('t', `return ${script};`) as (t: number) => number;
}

/** Points and unit tangents of a curve given by formulas, at `count` even parameters (ends included when open). */
export function sampleFormula(curve: FormulaCurve, count: number): { positions: Float64Array; tangents: Float64Array; speeds: Float64Array; step: number } {
  const f = [curve.x, curve.y, curve.z].map(formula);
  const [from, to] = curve.t.map((text) => formula(text)(0));
  const step = (to - from) / (curve.closed ? count : count - 1);
  const positions = new Float64Array(count * 3);
  const tangents = new Float64Array(count * 3);
  const speeds = new Float64Array(count);
  const h = 1e-5 * (to - from);
  for (let i = 0; i < count; i++) {
    const t = from + i * step;
    // Fourth-order central difference: exact to about 1e-11 here.
    const d = f.map((g) => (8 * (g(t + h) - g(t - h)) - (g(t + 2 * h) - g(t - 2 * h))) / (12 * h));
    speeds[i] = Math.hypot(...d);
    for (let k = 0; k < 3; k++) {
      positions[i * 3 + k] = f[k](t);
      tangents[i * 3 + k] = d[k] / speeds[i];
    }
  }
  return { positions, tangents, speeds, step };
}

/** A formula's curve as a fine Bezier curve with exact places and derivatives at its points. */
export function fineBezier(curve: FormulaCurve, count: number): Curves {
  const { positions, tangents, speeds, step } = sampleFormula(curve, count);
  const handle = Float32Array.from(tangents, (value, i) => (value * speeds[Math.floor(i / 3)] * step) / 3);
  return makeCurves({
    positions: Float32Array.from(positions),
    starts: Uint32Array.of(0, count),
    closed: Uint8Array.of(curve.closed ? 1 : 0),
    kind: Uint8Array.of(curveKinds.indexOf('bezier')),
    attributes: new Map([
      ['handleOut', { carrier: 'point', size: 3, data: handle }],
      ['handleIn', { carrier: 'point', size: 3, data: handle.map((value) => -value) }],
    ]),
  });
}
