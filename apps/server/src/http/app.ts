import compression from 'compression';
import express, { type Express } from 'express';
import { sql } from 'drizzle-orm';
import helmet from 'helmet';
import { resolve } from 'node:path';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import type { Config } from '../config.js';
import type { Database } from '../db/database.js';
import { AssetStore } from '../store/assets.js';
import { HandoutStore } from '../store/handouts.js';
import { DocumentStore } from '../store/documents.js';
import { assetRoutes } from './assets.js';
import { documentRoutes } from './documents.js';
import { requireOwnName, requireToken } from './guards.js';
import { handoutRoutes } from './handouts.js';
import { countedByCost } from './limits.js';
import { noSuchPlace, problemHandler } from './problems.js';
import { reportRoutes } from './reports.js';

/**
 * Nothing from elsewhere, no evaluated text. Cross-origin isolation gives the page shared memory, by which a newer edit stops an older run.
 */
const security = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      'default-src': ["'self'"],
      'script-src': ["'self'", "'wasm-unsafe-eval'"],
      'worker-src': ["'self'", 'blob:'],
      'style-src': ["'self'", "'unsafe-inline'"],
      'img-src': ["'self'", 'data:', 'blob:'],
      'connect-src': ["'self'"],
      'object-src': ["'none'"],
      'base-uri': ["'self'"],
      'form-action': ["'self'"],
      'frame-ancestors': ["'none'"],
      'report-uri': ['/api/reports/policy'],
    },
  },
  crossOriginEmbedderPolicy: true,
  crossOriginOpenerPolicy: { policy: 'same-origin' },
  // Forms of our own say where they come from; other sites are told nothing.
  referrerPolicy: { policy: 'same-origin' },
  strictTransportSecurity: false,
});

/** The HTTP application: the API, and the built web pages when there are any. */
export function makeApp(db: Database, config: Config, log: Logger): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger: log, autoLogging: { ignore: (request) => !request.url?.startsWith('/api/') } }));
  app.use(security, compression());
  app.use(requireOwnName(config), countedByCost(config.limits), requireToken(config.token));
  app.get('/api/health', async (_request, response) => {
    await db.execute(sql`select 1`);
    response.json({ ok: true });
  });
  app.use('/api/documents', documentRoutes(new DocumentStore(db), config.undoHours));
  app.use('/api/assets', assetRoutes(new AssetStore(db)));
  app.use('/api', handoutRoutes(new HandoutStore(db), new AssetStore(db)));
  app.use('/api/reports', reportRoutes(log));
  app.use('/api', noSuchPlace);
  if (config.webFolder) {
    const folder = resolve(config.webFolder);
    app.use(express.static(folder, { setHeaders: (response, path) => response.setHeader('Cache-Control', /-[A-Z0-9]{8}\./.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache') })); // prettier-ignore
    // Every place of the page is the same file. By its root: a path with a folder like ".apps" in it would count as hidden.
    app.get('/{*path}', (request, response, next) => {
      // A part that an older page asks for is gone: it must not get a page in its place.
      if (/\.\w+$/.test(request.path)) return next();
      response.sendFile('index.html', { root: folder, headers: { 'Cache-Control': 'no-cache' } });
    });
  }
  app.use(noSuchPlace);
  app.use(problemHandler(log));
  return app;
}
