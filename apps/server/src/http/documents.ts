import express, { Router } from 'express';
import { requireDocument } from '@filaxis/core';
import { bodyLimits, requestSchemas } from '@filaxis/protocol';
import type { DocumentStore } from '../store/documents.js';
import { BadRequest } from '../store/errors.js';
import { documentId, requireShallow, requireShape } from './validate.js';

const pngStart = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

/** Documents of a page unless another number is asked for. */
const listPage = 100;

/** A version's picture hardly changes: a browser shows the one it has and looks again behind it. */
const kept = 'private, max-age=60, stale-while-revalidate=86400';

/** Documents: list, create, read, save, delete and restore, with their versions and pictures. `undoHours`: how long deleted documents can be restored. */
export function documentRoutes(store: DocumentStore, undoHours: number): Router {
  const router = Router();
  const json = express.json({ limit: bodyLimits.document, verify: requireShallow });

  router.get('/', async (request, response) => {
    const { from, count, search = '', sort = 'changed' } = requireShape(requestSchemas.listQuery, request.query, 'query');
    response.json(await store.list({ from: Number(from ?? 0), count: Number(count ?? listPage), search, sort }));
  });

  router.post('/', json, async (request, response) => {
    const { document, key } = requireShape(requestSchemas.createDocument, request.body, 'body');
    const saved = await store.create(requireDocument(document), { key });
    response.status(201).location(`/api/documents/${saved.id}`).json(saved);
  });

  router.get('/deleted', async (_request, response) => {
    response.json(await store.deleted(undoHours));
  });

  router.delete('/deleted', async (_request, response) => {
    await store.purge(new Date());
    response.status(204).end();
  });

  router.delete('/deleted/:id', async (request, response) => {
    await store.forget(documentId(request));
    response.status(204).end();
  });

  router.get('/:id', async (request, response) => {
    response.json(await store.newest(documentId(request)));
  });

  router.get('/:id/text', async (request, response) => {
    response.type('application/json').send(await store.text(documentId(request)));
  });

  router.put('/:id', json, async (request, response) => {
    const id = documentId(request);
    const { document, baseVersion, key } = requireShape(requestSchemas.saveDocument, request.body, 'body');
    response.json(await store.save(id, baseVersion, requireDocument(document), key));
  });

  router.delete('/:id', async (request, response) => {
    await store.remove(documentId(request));
    response.status(204).end();
  });

  router.post('/:id/restore', async (request, response) => {
    await store.restore(documentId(request));
    response.status(204).end();
  });

  router.get('/:id/versions', async (request, response) => {
    response.json(await store.versions(documentId(request)));
  });

  router.get('/:id/versions/:version', async (request, response) => {
    const { id, version } = requireShape(requestSchemas.versionParams, request.params, 'address');
    response.json(await store.version(id, Number(version)));
  });

  router.get('/:id/picture', async (request, response) => {
    const png = await store.picture(documentId(request));
    // An address without the version may show another next time.
    const named = requireShape(requestSchemas.pictureOf, request.query, 'query').v !== undefined;
    response
      .type('png')
      .set('Cache-Control', named ? kept : 'no-cache')
      .send(png);
  });

  router.put('/:id/versions/:version/picture', express.raw({ type: 'image/png', limit: bodyLimits.picture }), async (request, response) => {
    const { id, version } = requireShape(requestSchemas.versionParams, request.params, 'address');
    const png: unknown = request.body;
    if (!Buffer.isBuffer(png) || !png.subarray(0, 8).equals(pngStart)) throw new BadRequest('The picture is no PNG.');
    const { faces, points } = requireShape(requestSchemas.pictureQuery, request.query, 'query');
    const count = (text: string | undefined): number | null => (text === undefined ? null : Number(text));
    await store.setPicture(id, Number(version), png, { faces: count(faces), points: count(points) });
    response.status(204).end();
  });

  router.get('/:id/versions/:version/picture', async (request, response) => {
    const { id, version } = requireShape(requestSchemas.versionParams, request.params, 'address');
    response
      .type('png')
      .set('Cache-Control', kept)
      .send(await store.versionPicture(id, Number(version)));
  });

  router.put('/:id/versions/:version/note', json, async (request, response) => {
    const { id, version } = requireShape(requestSchemas.versionParams, request.params, 'address');
    const { note } = requireShape(requestSchemas.setNote, request.body, 'body');
    await store.setNote(id, Number(version), note.trim());
    response.status(204).end();
  });

  return router;
}
