import { PhotoPoint, SewOut } from '@isola/core';
import { Hono } from 'hono';
import { z } from 'zod';
import type { SewOuts } from '../services/SewOuts.ts';
import { shortenName } from './attachment.ts';
import { readUpload } from './readUpload.ts';
import { limitBody, validate } from './validate.ts';
import { may } from './may.ts';

const SewOutId = z.object({ id: z.uuid({ error: 'no sample has such an id' }) });
const PhotoId = z.object({ id: z.uuid({ error: 'no photo has such an id' }) });
const OfJob = z.object({ job: z.uuid().optional() });
const NewSewOut = z.object({ jobId: z.uuid(), sewOut: SewOut });
const ChangedSewOut = z.object({ version: z.number().int().nonnegative(), sewOut: SewOut });
const Points = z.object({ points: z.array(PhotoPoint).refine((list) => list.length === 0 || list.length === 3, 'three points, or none') });
const LessonsOf = z.object({ fabric: z.string().min(1).max(100), machine: z.string().min(1).max(100) });
const RequestKey = z.object({ 'idempotency-key': z.uuid().optional() });

/** A photo may be as large as this. */
export const MAX_PHOTO_BYTES = 16 * 1024 * 1024;
/** The form around it. */
const FORM_OVERHEAD = 64 * 1024;
/** A photo never changes under its id. */
const FOR_A_YEAR = 'private, max-age=31536000, immutable';

export function sewOutRoutes(sewOuts: SewOuts): Hono {
  const app = new Hono();

  app.get('/', may('guest'), validate('query', OfJob), async (c) => c.json(await sewOuts.list(c.req.valid('query').job)));

  app.post('/', may('operator', { says: 'recorded a sample' }), validate('header', RequestKey), validate('json', NewSewOut), async (c) => {
    const { jobId, sewOut } = c.req.valid('json');
    return c.json(await sewOuts.add(jobId, sewOut, c.req.valid('header')['idempotency-key']), 201);
  });

  app.get('/lessons', may('guest'), validate('query', LessonsOf), async (c) => {
    const { fabric, machine } = c.req.valid('query');
    return c.json(await sewOuts.lessons(fabric, machine));
  });

  app.get('/:id', may('guest'), validate('param', SewOutId), async (c) => c.json(await sewOuts.get(c.req.valid('param').id)));

  app.put(
    '/:id',
    may('operator', { says: 'changed a sample' }),
    validate('param', SewOutId),
    validate('json', ChangedSewOut),
    async (c) => {
      const { version, sewOut } = c.req.valid('json');
      return c.json(await sewOuts.change(c.req.valid('param').id, version, sewOut));
    },
  );

  app.post(
    '/:id/photos',
    may('operator', { says: 'added a photo to a sample', takes: 'file' }),
    limitBody(
      MAX_PHOTO_BYTES + FORM_OVERHEAD,
      'This photo is too large',
      `A photo may have up to ${MAX_PHOTO_BYTES / 1048576} MB. Send it smaller.`,
    ),
    validate('param', SewOutId),
    async (c) => {
      const { fileName, bytes } = await readUpload(c.req.raw);
      const name = shortenName(fileName.replaceAll(/[\p{Cc}\p{Surrogate}]/gu, '_') || 'photo');
      return c.json(await sewOuts.addPhoto(c.req.valid('param').id, name, bytes), 201);
    },
  );

  app.get('/photos/:id', may('guest'), validate('param', PhotoId), async (c) => {
    const { mime, bytes } = await sewOuts.photo(c.req.valid('param').id);
    return c.body(new Uint8Array(bytes), 200, { 'Content-Type': mime, 'Cache-Control': FOR_A_YEAR, 'X-Content-Type-Options': 'nosniff' });
  });

  app.put(
    '/photos/:id',
    may('operator', { says: 'laid a photo of a sample' }),
    validate('param', PhotoId),
    validate('json', Points),
    async (c) => c.json(await sewOuts.lay(c.req.valid('param').id, c.req.valid('json').points)),
  );

  app.delete('/photos/:id', may('operator', { says: 'removed a photo of a sample' }), validate('param', PhotoId), async (c) =>
    c.json(await sewOuts.removePhoto(c.req.valid('param').id)),
  );

  return app;
}
