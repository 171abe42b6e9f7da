import { nodes8 } from './arcLength.js';

/** The polynomial of degree 7 through samples at the nodes of Gauss's rule: tables of its coefficients and its integral. */

/** The 8 Gauss–Legendre abscissae on −1…1: the four nodes, and then the same with a minus. */
const abscissae = Float64Array.from([...nodes8, ...nodes8.map((x) => -x)]);

/** Row k: the weights of the samples at the abscissae in the coefficient of z^k of the polynomial through them. */
const inverse = invertVandermonde(abscissae);

/**
 * The same as weights of the sums (even k) or differences (odd k) of the samples at ± each node, 4 a row: an even power weighs both alike, an odd one with
 * opposite signs.
 */
export const interpolation = Float64Array.from({ length: 32 }, (_, i) => inverse[(i >> 2) * 8 + (i & 3)]);

function invertVandermonde(x: Float64Array): Float64Array {
  const n = x.length;
  const inverse = new Float64Array(n * n);
  for (let j = 0; j < n; j++) {
    // The Lagrange polynomial of node j, multiplied out.
    const product = new Float64Array(n);
    product[0] = 1;
    let degree = 0;
    let scale = 1;
    for (let m = 0; m < n; m++) {
      if (m === j) continue;
      degree++;
      for (let k = degree; k > 0; k--) product[k] = product[k - 1] - x[m] * product[k];
      product[0] *= -x[m];
      scale *= x[j] - x[m];
    }
    for (let k = 0; k < n; k++) inverse[k * n + j] = product[k] / scale;
  }
  return inverse;
}

/** The weights of the sums, and then of the differences, in the integral of that polynomial from −1 to 0. */
export const toMiddle = Float64Array.from({ length: 8 }, (_, i) => {
  let sum = 0;
  for (let k = i < 4 ? 0 : 1; k < 8; k += 2) sum += ((k % 2 ? -1 : 1) * interpolation[k * 4 + (i & 3)]) / (k + 1);
  return sum;
});
