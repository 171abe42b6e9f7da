import type { ErrorObject } from 'ajv';

export declare const validate: { (data: unknown): boolean; errors?: ErrorObject[] | null };
export default validate;
