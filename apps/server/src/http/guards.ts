import { createHash, timingSafeEqual } from 'node:crypto';
import { isIP } from 'node:net';
import express, { Router, type RequestHandler } from 'express';
import type { Config } from '../config.js';
import { Refused } from '../store/errors.js';

/** Whether an address is only reached from the machine itself. */
export const isLoopback = (host: string): boolean => host === 'localhost' || host === '::1' || (isIP(host) === 4 && host.startsWith('127.'));

/** A host without its port and brackets. */
const bareHost = (host: string): string =>
  host
    .toLowerCase()
    .replace(/:\d+$/, '')
    .replace(/^\[|\]$/g, '');

/**
 * Refuses requests by another name than the server's own, so that a stranger's page cannot reach it through a name that it bound to this address; and changes that a page of
 * another origin asks for.
 */
export function requireOwnName({ host, hosts }: Config): RequestHandler {
  const known = new Set([host.toLowerCase(), ...hosts, ...(isLoopback(host) ? ['localhost', '127.0.0.1', '::1'] : [])]);
  // Listening everywhere means any address of the machine; names have to be given.
  const anyAddress = host === '0.0.0.0' || host === '::';
  return (request, _response, next) => {
    const asked = request.headers.host ?? '';
    const name = bareHost(asked);
    if (!known.has(name) && !(anyAddress && isIP(name)))
      throw new Refused(421, 'Another name', `This server is not called "${name.slice(0, 100)}". Give it in FILAXIS_HOSTS if it is.`);
    if (!['GET', 'HEAD', 'OPTIONS'].includes(request.method)) {
      const { origin } = request.headers;
      const site = request.headers['sec-fetch-site'];
      if ((origin !== undefined && hostOf(origin) !== asked.toLowerCase()) || site === 'cross-site' || site === 'same-site')
        throw new Refused(403, 'Another origin', 'Changes are taken from pages of this server alone.');
    }
    next();
  };
}

function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host;
  } catch {
    return null;
  }
}

const cookieName = 'filaxis';
const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
/** What the cookie holds: nothing from which the token could be told. */
const cookieOf = (token: string): string => digest(`filaxis cookie ${token}`).toString('base64url');

const same = (given: string, wanted: string): boolean => timingSafeEqual(digest(given), digest(wanted));

function cookieIn(header: string | undefined): string {
  for (const part of (header ?? '').split(';')) {
    const at = part.indexOf('=');
    if (part.slice(0, at).trim() === cookieName) return part.slice(at + 1).trim();
  }
  return '';
}

/** What is open without the token: what a handout's link shows, and the program itself, which holds nothing of anybody. */
const open = /^\/(api\/handouts\/|api\/reports\/|api\/health$|h\/|sign-in$|assets\/|media\/|[^/]+\.(js|css|svg|woff2?|ico|png|json|wasm)$)/;

const signInPage = (failed: boolean): string => `<!doctype html>
<html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Filaxis</title>
<style>body{font:16px system-ui,sans-serif;background:#efe7da;color:#1c2541;display:grid;place-items:center;min-height:90vh;margin:0}
form{background:#fbf8f1;padding:28px 32px;border-radius:12px;display:grid;gap:12px;min-width:280px}input,button{font:inherit;padding:8px 12px;border-radius:8px;border:1px solid #b8ab95}
button{background:#1c2541;color:#fff;border:0}p{margin:0;color:#a2323f}h1{font-size:20px;margin:0}</style>
<form method="post" action="/sign-in"><h1>Filaxis</h1><label for="token">Token of this server</label>
<input id="token" name="token" type="password" autocomplete="current-password" autofocus required>
${failed ? '<p role="alert">That is not its token.</p>' : ''}<button>Sign in</button></form></html>`;

/** Asks for the token, where there is one: once on a page, which a cookie remembers, or with each request as `Authorization: Bearer`. */
export function requireToken(token: string | null): Router {
  const router = Router();
  if (token === null) return router;
  const cookie = cookieOf(token);
  router.get('/sign-in', (_request, response) => void response.type('html').set('Cache-Control', 'no-store').send(signInPage(false)));
  router.post('/sign-in', express.urlencoded({ extended: false, limit: 2000 }), (request, response) => {
    const { token: given } = (request.body ?? {}) as { token?: unknown };
    if (typeof given !== 'string' || !same(given, token)) {
      response.status(401).type('html').set('Cache-Control', 'no-store').send(signInPage(true));
      return;
    }
    response.cookie(cookieName, cookie, { httpOnly: true, sameSite: 'strict', secure: request.secure, path: '/', maxAge: 30 * 86_400_000 });
    response.redirect(303, '/');
  });
  router.use((request, response, next) => {
    const bearer = /^Bearer (.+)$/.exec(request.headers.authorization ?? '')?.[1] ?? '';
    if (open.test(request.path) || same(cookieIn(request.headers.cookie), cookie) || same(bearer, token)) return next();
    if (request.path.startsWith('/api/')) throw new Refused(401, 'Token needed', 'Sign in with the token of this server first.');
    response.redirect(303, '/sign-in');
  });
  return router;
}
