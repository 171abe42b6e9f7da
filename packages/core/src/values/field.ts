/** A resolved setting: one number for all elements, or one each (`values`, 64-bit). */
export interface Field {
  readonly constant: number;
  readonly values: Float64Array | null;
}

export const constantField = (constant: number): Field => ({ constant, values: null });

/** The largest of its values; the constant where there are none. */
export const largestOf = ({ constant, values }: Field): number =>
  values?.length ? values.reduce((most, value) => Math.max(most, value), -Infinity) : constant;

export const fieldAt = (field: Field, i: number): number => (field.values ? field.values[i] : field.constant);
