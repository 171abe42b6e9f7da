import { Router } from 'express';
import type { HandoutStore } from '../store/handouts.js';
import { documentId, requireShape } from './validate.js';

/** Handouts are read by their link; they are opened and closed at their document. */
export function handoutRoutes(store: HandoutStore): Router {
  const router = Router();
  router.get('/handouts/:token', async (request, response) => {
    const { token } = requireShape<{ token: string }>('handoutParams', request.params, 'address');
    response.json(await store.read(token));
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
