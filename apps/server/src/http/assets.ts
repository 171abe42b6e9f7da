import express, { Router } from 'express';
import { bodyLimits, requestSchemas } from '@filaxis/protocol';
import type { AssetStore } from '../store/assets.js';
import { BadRequest } from '../store/errors.js';
import { requireShape } from './validate.js';

/** Imported files, by the SHA-256 of their bytes. */
export function assetRoutes(store: AssetStore): Router {
  const router = Router();

  router.put('/:hash', express.raw({ type: 'application/octet-stream', limit: bodyLimits.asset }), async (request, response) => {
    const { hash } = requireShape(requestSchemas.assetParams, request.params, 'address');
    const { name = 'file' } = requireShape(requestSchemas.assetQuery, request.query, 'query');
    const bytes: unknown = request.body;
    if (!Buffer.isBuffer(bytes)) throw new BadRequest('The body must be the file’s bytes, as application/octet-stream.');
    await store.put(hash, name, bytes);
    response.status(204).end();
  });

  router.get('/:hash', async (request, response) => {
    const { hash } = requireShape(requestSchemas.assetParams, request.params, 'address');
    const { bytes } = await store.get(hash);
    // The address names the contents, so they can be kept for good.
    response.type('application/octet-stream').set('Cache-Control', 'private, max-age=31536000, immutable').send(bytes);
  });

  return router;
}
