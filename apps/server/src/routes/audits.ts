import { setTimeout as wait } from 'node:timers/promises';
import { MAX_FILE_BYTES, Target } from '@isola/core';
import { Hono } from 'hono';
import { streamSSE } from 'hono/streaming';
import { z } from 'zod';
import { type Audits, MOST_FILES } from '../services/Audits.ts';
import { attachment } from './attachment.ts';
import { readUpload } from './readUpload.ts';
import { limitBody, validate } from './validate.ts';
import { may } from './may.ts';

const AuditId = z.object({ id: z.uuid({ error: 'no audit has such an id' }) });
const FileOfAudit = AuditId.extend({ seq: z.coerce.number().int().positive().max(MOST_FILES) });
const NewAudit = z.object({ name: z.string().trim().min(1).max(200), target: Target });
const RequestKey = z.object({ 'idempotency-key': z.uuid().optional() });

/** The form around a file: its field names and boundaries. */
const FORM_OVERHEAD = 64 * 1024;
/** Paths in a folder are kept up to this length; the end, which says the file, stays. */
const LONGEST_PATH = 400;
/** So often (ms) it is looked whether an audit went on, while somebody watches. */
const LOOK_EVERY = 400;

export function auditRoutes(audits: Audits, closing?: AbortSignal): Hono {
  const app = new Hono();

  app.get('/', may('guest'), async (c) => c.json(await audits.list()));

  app.post('/', may('digitizer', { says: 'began an audit of many files' }), validate('json', NewAudit), async (c) => {
    const { name, target } = c.req.valid('json');
    const audit = await audits.begin(name, target);
    return c.json(audit, 201, { Location: `/api/audits/${audit.id}` });
  });

  app.get('/:id', may('guest'), validate('param', AuditId), async (c) => c.json(await audits.get(c.req.valid('param').id)));

  app.put(
    '/:id/files/:seq',
    may('digitizer', { says: 'added a file to an audit', takes: 'listed-file' }),
    limitBody(MAX_FILE_BYTES + FORM_OVERHEAD, 'This file is too large', `Isola takes files up to ${MAX_FILE_BYTES / 1048576} MB.`),
    validate('param', FileOfAudit),
    async (c) => {
      const { id, seq } = c.req.valid('param');
      const { fileName, fields, bytes } = await readUpload(c.req.raw);
      const name = (fields['path'] ?? fileName).replaceAll(/[\p{Cc}\p{Surrogate}]/gu, '_').slice(-LONGEST_PATH) || 'design';
      await audits.add(id, seq, name, bytes);
      return c.body(null, 204);
    },
  );

  app.post('/:id/cancel', may('digitizer', { says: 'cancelled an audit' }), validate('param', AuditId), async (c) =>
    c.json(await audits.cancel(c.req.valid('param').id)),
  );
  app.post('/:id/resume', may('digitizer', { says: 'let an audit go on' }), validate('param', AuditId), async (c) =>
    c.json(await audits.resume(c.req.valid('param').id)),
  );

  app.delete('/:id', may('digitizer', { says: 'deleted an audit' }), validate('param', AuditId), async (c) => {
    await audits.remove(c.req.valid('param').id);
    return c.body(null, 204);
  });

  app.post(
    '/:id/files/:seq/job',
    may('digitizer', { says: 'took a file of an audit in' }),
    validate('param', FileOfAudit),
    validate('header', RequestKey),
    async (c) => {
      const { id, seq } = c.req.valid('param');
      return c.json(await audits.takeIn(id, seq, c.req.valid('header')['idempotency-key']), 201);
    },
  );

  app.get('/:id/table', may('guest'), validate('param', AuditId), async (c) => {
    const { name, content } = await audits.csv(c.req.valid('param').id);
    return c.body(content, 200, { 'Content-Type': 'text/csv; charset=utf-8', 'Content-Disposition': attachment(`${name}.csv`) });
  });

  // How far it is, said whenever that changes, until nothing waits.
  app.get('/:id/events', may('guest'), validate('param', AuditId), async (c) => {
    const { id } = c.req.valid('param');
    await audits.summary(id);
    return streamSSE(c, async (stream) => {
      let said = '';
      while (!stream.aborted && closing?.aborted !== true) {
        const summary = await audits.summary(id).catch(() => undefined);
        if (summary === undefined) break;
        const data = JSON.stringify(summary);
        if (data !== said) await stream.writeSSE({ event: 'audit', data });
        said = data;
        if (summary.counts.waiting === 0) break;
        await wait(LOOK_EVERY);
      }
    });
  });

  return app;
}
