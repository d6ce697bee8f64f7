import { FORMAT_IDS, type FormatId, formatOf, type LayoutRecord } from '@isola/core';
import { type Context, Hono } from 'hono';
import { z } from 'zod';
import { Problem } from '../problem.ts';
import type { FileOut } from '../services/Files.ts';
import type { JobService } from '../services/JobService.ts';
import type { ShopService } from '../services/ShopService.ts';
import { attachment } from './attachment.ts';
import { signedBy } from './people.ts';
import { JobId, RevisionNumber, validate } from './validate.ts';
import { may } from './may.ts';

/** An open format, or a machine's own by the id of its layout. */
const ExportFormat = z
  .object({
    format: z
      .enum(FORMAT_IDS, { error: ({ input }) => `there is no format ${String(input)}; there are ${FORMAT_IDS.join(', ')}` })
      .optional(),
    layout: z.string().min(1).max(100).optional(),
  })
  .refine(({ format, layout }) => (format === undefined) !== (layout === undefined), 'say a format, or the layout of a machine');
const WhichFile = z.object({ as: z.enum(['came']).optional() });

/** Who answers for a file, and why it leaves as it is. */
const Signature = z.object({
  baseVersion: z.number().int().nonnegative(),
  who: z.string().trim().min(1).max(200),
  reason: z.string().trim().min(3).max(2000),
});

/** All that leaves of a job as a file, and who answers for it. */
export function jobFileRoutes(jobs: JobService, shop: ShopService): Hono {
  const app = new Hono();

  // The file of a job never changes: who had it asks whether it may still be seen.
  app.get('/:id/file', may('guest'), validate('param', JobId), validate('query', WhichFile), async (c) => {
    const { id } = c.req.valid('param');
    const asItCame = c.req.valid('query').as === 'came';
    const kept = { ETag: `"${id}${asItCame ? '-came' : ''}"`, 'Cache-Control': 'private, no-cache' };
    if (c.req.header('if-none-match') === kept.ETag) {
      await jobs.demand(id);
      return c.body(null, 304, kept);
    }
    const { fileName, kind, bytes } = await jobs.file(id, asItCame);
    return c.body(new Uint8Array(bytes), 200, { ...kept, 'Content-Type': mimeOf(kind), 'Content-Disposition': attachment(fileName) });
  });

  app.get('/:id/revisions/:number/file', may('guest'), validate('param', RevisionNumber), validate('query', ExportFormat), async (c) => {
    const { id, number } = c.req.valid('param');
    const format = await formatFor(c.req.valid('query'), shop);
    return sendFile(c, await jobs.files.revision(id, number, format), format);
  });

  app.post(
    '/:id/sign-offs',
    may('digitizer', { says: 'signed for a file' }),
    validate('param', JobId),
    validate('json', Signature),
    async (c) => {
      const { baseVersion, who, reason } = c.req.valid('json');
      return c.json(await jobs.files.sign(c.req.valid('param').id, baseVersion, { who: signedBy(c, who), reason }), 201);
    },
  );

  app.get('/:id/program', may('guest'), validate('param', JobId), async (c) => {
    const program = await jobs.files.program(c.req.valid('param').id);
    return c.body(new Uint8Array(program), 200, { 'Content-Type': formatOf('csv').mime });
  });

  app.get('/:id/revisions/:number/program', may('guest'), validate('param', RevisionNumber), async (c) => {
    const { id, number } = c.req.valid('param');
    return c.body(new Uint8Array(await jobs.revisions.program(id, number)), 200, { 'Content-Type': formatOf('csv').mime });
  });

  app.get('/:id/export', may('guest'), validate('param', JobId), validate('query', ExportFormat), async (c) => {
    const format = await formatFor(c.req.valid('query'), shop);
    return sendFile(c, await jobs.files.present(c.req.valid('param').id, format), format);
  });

  app.get('/:id/audit.pdf', may('guest'), validate('param', JobId), async (c) => {
    const { fileName, content } = await jobs.auditPdf(c.req.valid('param').id);
    return c.body(new Uint8Array(content), 200, { 'Content-Type': 'application/pdf', 'Content-Disposition': attachment(fileName) });
  });

  app.get('/:id/sheet.pdf', may('guest'), validate('param', JobId), async (c) => {
    const { fileName, content } = await jobs.sheetPdf(c.req.valid('param').id);
    return c.body(new Uint8Array(content), 200, { 'Content-Type': 'application/pdf', 'Content-Disposition': attachment(fileName) });
  });

  return app;
}

const mimeOf = (format: FormatId | undefined): string => (format === undefined ? 'application/octet-stream' : formatOf(format).mime);

/** What is asked for, in a machine's own format the shop's layout of it. */
async function formatFor(asked: z.infer<typeof ExportFormat>, shop: ShopService): Promise<FormatId | LayoutRecord> {
  if (asked.format !== undefined) return asked.format;
  const layout = (await shop.layouts()).find(({ id }) => id === asked.layout);
  if (layout === undefined)
    throw new Problem(404, 'Not found', `The shop has no machine layout ${asked.layout}; it may have been deleted.`);
  return layout;
}

function sendFile(c: Context, { fileName, content }: FileOut, format: FormatId | LayoutRecord): Response {
  const headers = { 'Content-Type': mimeOf(typeof format === 'string' ? format : undefined), 'Content-Disposition': attachment(fileName) };
  return c.body(new Uint8Array(content), 200, headers);
}
