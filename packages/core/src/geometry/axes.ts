/** Own axes of an object that follow the tangent and the normal of where it is placed: index 0…2 of x, y, z, and its sign. */
export interface AxesToFollow {
  readonly tangent: { readonly axis: number; readonly sign: 1 | -1 };
  readonly normal: { readonly axis: number; readonly sign: 1 | -1 };
}

/** Choices of an axis, as settings have them. */
export const axisChoices = { x: 'X', y: 'Y', z: 'Z', minusX: '−X', minusY: '−Y', minusZ: '−Z' } as const;
export type AxisChoice = keyof typeof axisChoices;
/** Other spellings of the axes with a minus. */
export const axisAliases = { '-x': 'minusX', '-y': 'minusY', '-z': 'minusZ' } as const;

const axisOf = (choice: AxisChoice): AxesToFollow['tangent'] => ({
  axis: 'xyz'.indexOf(choice.slice(-1).toLowerCase()),
  sign: choice.startsWith('minus') ? -1 : 1,
});

/** @throws RangeError when both are the same axis. */
export function axesToFollow(tangent: AxisChoice, normal: AxisChoice): AxesToFollow {
  const axes = { tangent: axisOf(tangent), normal: axisOf(normal) };
  if (axes.tangent.axis === axes.normal.axis)
    throw new RangeError(
      `The tangent and the normal cannot both be followed by ${axisChoices[tangent]} and ${axisChoices[normal]}; choose two different axes.`,
    );
  return axes;
}

/** The rotation (3 columns of 3, column-major) that brings the own axes to z along the tangent and y along the normal: a proper rotation. */
export function turnToStandard({ tangent, normal }: AxesToFollow): number[] {
  const z = [0, 0, 0];
  const y = [0, 0, 0];
  z[tangent.axis] = tangent.sign;
  y[normal.axis] = normal.sign;
  const x = [y[1] * z[2] - y[2] * z[1], y[2] * z[0] - y[0] * z[2], y[0] * z[1] - y[1] * z[0]];
  // Rows x, y, z take own coordinates to standard ones; written column by column.
  return [x[0], y[0], z[0], x[1], y[1], z[1], x[2], y[2], z[2]];
}
