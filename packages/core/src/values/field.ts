/** A resolved setting: one number for all elements, or one each (`values`, 64-bit). */
export interface Field {
  readonly constant: number;
  readonly values: Float64Array | null;
}

export const constantField = (constant: number): Field => ({ constant, values: null });

export const fieldAt = (field: Field, i: number): number => (field.values ? field.values[i] : field.constant);
