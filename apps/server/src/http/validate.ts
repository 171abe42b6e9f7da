import { Ajv } from 'ajv';
import { faultyText } from '@filaxis/core';
import type { Request } from 'express';
import type { FromSchema, JSONSchema } from 'json-schema-to-ts';
import { requestSchemas } from '@filaxis/protocol';
import { BadRequest } from '../store/errors.js';

const ajv = new Ajv({ allErrors: true });
Object.values(requestSchemas).forEach((schema) => ajv.compile<unknown>(schema));

/**
 * The value, known to fit the schema, which its type is read off (only there: to be told at once that it is a schema is too much for the compiler).
 * @throws BadRequest naming every place that does not.
 */
export function requireShape<S extends object>(schema: S, value: unknown, where: 'body' | 'query' | 'address'): S extends JSONSchema ? FromSchema<S> : never {
  const text = faultyText(value);
  if (text) throw new BadRequest(`The ${where} does not fit: ${text.pointer || '/'} ${text.message}`, [text]);
  // One that was compiled is known again by its schema.
  const validate = ajv.compile<unknown>(schema);
  if (validate(value)) return value as never;
  const errors = (validate.errors ?? []).map((error) => ({
    pointer: error.instancePath,
    message: `${error.message ?? 'does not fit'}${error.params['additionalProperty'] ? `: ${String(error.params['additionalProperty'])}` : ''}`,
  }));
  throw new BadRequest(`The ${where} does not fit: ${errors.map(({ pointer, message }) => `${pointer || '/'} ${message}`).join('; ')}.`, errors);
}

export const documentId = (request: Request): string => requireShape(requestSchemas.documentParams, request.params, 'address').id;

/** Levels of lists and objects that a body may have. */
const deepest = 100;

/** @throws BadRequest when a JSON body is nested deeper than anything here is, before it is parsed. */
export function requireShallow(_request: unknown, _response: unknown, bytes: Buffer): void {
  let [depth, text] = [0, false];
  for (let i = 0; i < bytes.length; i++) {
    const sign = bytes[i];
    if (text) {
      if (sign === 0x5c) i++;
      else if (sign === 0x22) text = false;
    } else if (sign === 0x22) text = true;
    else if (sign === 0x7b || sign === 0x5b) {
      if (++depth > deepest) throw new BadRequest(`The body is nested deeper than ${deepest} levels (byte ${i}).`);
    } else if (sign === 0x7d || sign === 0x5d) depth--;
  }
}
