import type { RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { Refused } from '../store/errors.js';

/** Requests a minute from one address, by what they cost: saving is never refused for having looked. */
export interface RequestLimits {
  /** Documents and what belongs to them, changed. */
  readonly changes: number;
  /** What is only read. */
  readonly looks: number;
  /** Imported files that are sent, and tries to sign in. */
  readonly files: number;
  /** Reports of faults in the page. */
  readonly reports: number;
}

const kindOf = (method: string, path: string): keyof RequestLimits => {
  if (path.startsWith('/api/reports')) return 'reports';
  if (method === 'GET' || method === 'HEAD') return 'looks';
  return path.startsWith('/api/assets') || path === '/sign-in' ? 'files' : 'changes';
};

const words: Readonly<Record<keyof RequestLimits, string>> = { changes: 'changes', looks: 'requests', files: 'files', reports: 'reports' };

/** Counts requests of each kind by themselves. */
export function countedByCost(limits: RequestLimits): RequestHandler {
  const counters = Object.fromEntries(
    (Object.keys(limits) as (keyof RequestLimits)[]).map((kind) => [
      kind,
      rateLimit({
        windowMs: 60_000,
        limit: limits[kind],
        standardHeaders: 'draft-8',
        legacyHeaders: false,
        handler: () => {
          throw new Refused(429, 'Too many requests', `More than ${limits[kind]} ${words[kind]} in a minute came from this address.`);
        },
      }),
    ]),
  ) as unknown as Record<keyof RequestLimits, RequestHandler>;
  return (request, response, next) => counters[kindOf(request.method, request.path)](request, response, next);
}
