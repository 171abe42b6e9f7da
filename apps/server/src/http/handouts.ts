import { Router } from 'express';
import { requestSchemas } from '@filaxis/protocol';
import type { AssetStore } from '../store/assets.js';
import { NotFound } from '../store/errors.js';
import type { HandoutStore } from '../store/handouts.js';
import { documentId, requireShape } from './validate.js';

/** Handouts are read by their link; they are opened and closed at their document. */
export function handoutRoutes(store: HandoutStore, assets: AssetStore): Router {
  const router = Router();
  router.get('/handouts/:token', async (request, response) => {
    const { token } = requireShape(requestSchemas.handoutParams, request.params, 'address');
    response.json(await store.read(token));
  });
  router.get('/handouts/:token/assets/:hash', async (request, response) => {
    const { token, hash } = requireShape(requestSchemas.handoutAssetParams, request.params, 'address');
    const { document } = await store.read(token);
    if (!Object.hasOwn(document.assets ?? {}, hash)) throw new NotFound('This handout has no such file.');
    const { bytes } = await assets.get(hash);
    response.type('application/octet-stream').set('Cache-Control', 'private, max-age=31536000, immutable').send(bytes);
  });
  router.post('/documents/:id/handout', async (request, response) => {
    response.json(await store.open(documentId(request)));
  });
  router.delete('/documents/:id/handout', async (request, response) => {
    await store.close(documentId(request));
    response.status(204).end();
  });
  return router;
}
