import express, { Router } from 'express';
import { requestSchemas } from '@filaxis/protocol';
import type { Logger } from 'pino';
import { requireShape } from './validate.js';

/** Bytes that a report may have. */
const largestReport = 20_000;

/** Faults of the page, to the log: what its security policy blocked, and errors that nothing caught. They hold nothing of documents. */
export function reportRoutes(log: Logger): Router {
  const router = Router();
  router.post(
    '/policy',
    express.json({ type: ['application/csp-report', 'application/reports+json', 'application/json'], limit: largestReport }),
    (request, response) => {
      const given: unknown = request.body;
      const first =
        (Array.isArray(given) ? (given[0] as { body?: unknown } | undefined)?.body : (given as { 'csp-report'?: unknown } | null)?.['csp-report']) ?? {};
      const text = (...names: string[]): string => {
        const value = names.map((name) => (first as Record<string, unknown>)[name]).find((each) => typeof each === 'string');
        return typeof value === 'string' ? value.slice(0, 200) : '';
      };
      log.warn({ directive: text('effectiveDirective', 'violated-directive'), blocked: text('blockedURL', 'blocked-uri') }, 'blocked by the security policy');
      response.status(204).end();
    },
  );
  router.post('/error', express.json({ limit: largestReport }), (request, response) => {
    log.warn({ report: requireShape(requestSchemas.report, request.body, 'body') }, 'error in the page');
    response.status(204).end();
  });
  return router;
}
