import { Hono } from 'hono';
import { z } from 'zod';
import type { Presences } from '../services/Presences.ts';
import { JobId, validate } from './validate.ts';
import { may } from './may.ts';

const Here = z.object({ page: z.uuid(), stage: z.string().trim().max(40) });
const PageOfJob = JobId.extend({ page: z.uuid() });

/** Who has a job open: windows say so while they do. */
export function presenceRoutes(presences: Presences): Hono {
  const app = new Hono();

  app.get('/:id/here', may('guest'), validate('param', JobId), async (c) => c.json(await presences.list(c.req.valid('param').id)));

  app.put('/:id/here', may('guest'), validate('param', JobId), validate('json', Here), async (c) => {
    const { page, stage } = c.req.valid('json');
    return c.json(await presences.come(c.req.valid('param').id, { page, stage, who: c.get('person')?.name ?? null }));
  });

  app.delete('/:id/here/:page', may('guest'), validate('param', PageOfJob), async (c) => {
    const { id, page } = c.req.valid('param');
    await presences.leave(id, page);
    return c.body(null, 204);
  });

  return app;
}
