import { Ajv } from 'ajv';
import { faultyText } from '@filaxis/core';
import type { Request } from 'express';
import { requestSchemas, type RequestSchema } from '@filaxis/protocol';
import { BadRequest } from '../store/errors.js';

const ajv = new Ajv({ allErrors: true });
const validators = Object.fromEntries(Object.entries(requestSchemas).map(([name, schema]) => [name, ajv.compile(schema)]));

/** The value, known to fit the schema. @throws BadRequest naming every place that does not. */
export function requireShape<T>(schema: RequestSchema, value: unknown, where: 'body' | 'query' | 'address'): T {
  const text = faultyText(value);
  if (text) throw new BadRequest(`The ${where} does not fit: ${text.pointer || '/'} ${text.message}`, [text]);
  const validate = validators[schema];
  if (validate(value)) return value as T;
  const errors = (validate.errors ?? []).map((error) => ({
    pointer: error.instancePath,
    message: `${error.message ?? 'does not fit'}${error.params['additionalProperty'] ? `: ${String(error.params['additionalProperty'])}` : ''}`,
  }));
  throw new BadRequest(`The ${where} does not fit: ${errors.map(({ pointer, message }) => `${pointer || '/'} ${message}`).join('; ')}.`, errors);
}

export const documentId = (request: Request): string => requireShape<{ id: string }>('documentParams', request.params, 'address').id;
