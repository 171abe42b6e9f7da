import type { ErrorRequestHandler, RequestHandler, Response } from 'express';
import { DocumentError } from '@filaxis/core';
import { problemType, type ProblemDetails } from '@filaxis/protocol';
import type { Logger } from 'pino';
import { isAway } from '../db/away.js';
import { BadRequest, Conflict, NotFound, Refused } from '../store/errors.js';

export function send(response: Response, problem: Omit<ProblemDetails, 'type'>): void {
  response
    .status(problem.status)
    .type(problemType)
    .send(JSON.stringify({ type: 'about:blank', ...problem }));
}

export const noSuchPlace: RequestHandler = (request, response) =>
  send(response, { status: 404, title: 'Not found', detail: `There is nothing at ${request.path}.` });

/** Seconds after which a request is worth asking again. */
const retryAfter = 1;

/** What an error means to the caller. Errors of our own making are told in full, others are logged and told as such. */
export function problemOf(error: unknown): Omit<ProblemDetails, 'type'> {
  if (error instanceof BadRequest) return { status: 400, title: 'Bad request', detail: error.message, errors: error.errors };
  if (error instanceof DocumentError) {
    const errors = error.problems.map(({ pointer, message }) => ({ pointer: `/document${pointer}`, message }));
    return { status: 422, title: 'Not a document', detail: error.problems[0].message, errors };
  }
  if (error instanceof NotFound) return { status: 404, title: 'Not found', detail: error.message };
  if (error instanceof Conflict) return { status: 409, title: 'Saved elsewhere', detail: error.message, current: error.current };
  if (error instanceof Refused) return { status: error.status, title: error.title, detail: error.message };
  if (isAway(error))
    return {
      status: 503,
      title: 'Database away',
      detail: 'The database cannot be reached now; ask again. Whether this request was saved is known by its key.',
    };
  const { status, type } = error as { status?: number; type?: string };
  if (type === 'entity.too.large') return { status: 413, title: 'Too large', detail: 'The body is larger than this address takes.' };
  if (type === 'entity.parse.failed') return { status: 400, title: 'Not JSON', detail: `The body is not JSON: ${(error as Error).message}.` };
  if (typeof status === 'number' && status >= 400 && status < 500) return { status, title: 'Bad request', detail: (error as Error).message };
  return { status: 500, title: 'Server error', detail: 'Something went wrong on the server; nothing was saved by this request.' };
}

export const problemHandler =
  (log: Logger): ErrorRequestHandler =>
  (error, _request, response, next) => {
    if (response.headersSent) return next(error);
    const problem = problemOf(error);
    if (problem.status === 503) response.setHeader('Retry-After', retryAfter);
    if (problem.status >= 500) log.error(error);
    send(response, problem);
  };
