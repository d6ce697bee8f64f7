import { Hono } from 'hono';
import { z } from 'zod';
import { Problem } from '../problem.ts';
import { SHOP_KINDS, SHOP_LISTS, type ShopService } from '../services/ShopService.ts';
import { validate } from './validate.ts';

const RecordPath = z.object({ kind: z.enum(SHOP_KINDS), id: z.string().min(1).max(100) });

export function shopRoutes(shop: ShopService): Hono {
  const app = new Hono();

  app.get('/', async (c) => c.json(await shop.list()));

  app.post('/defaults', async (c) => {
    await shop.restoreDefaults();
    return c.json(await shop.list());
  });

  app.put('/:kind/:id', validate('param', RecordPath), validate('json', z.unknown()), async (c) => {
    const { kind, id } = c.req.valid('param');
    const record = SHOP_LISTS[kind].schema.safeParse(c.req.valid('json'));
    if (!record.success) throw new Problem(422, 'The request does not fit', z.prettifyError(record.error));
    if (record.data.id !== id)
      throw new Problem(422, 'The request does not fit', `The record calls itself ${record.data.id}, the address ${id}.`);
    await shop.put(kind, id, record.data);
    return c.json(record.data);
  });

  app.delete('/:kind/:id', validate('param', RecordPath), async (c) => {
    const { kind, id } = c.req.valid('param');
    await shop.remove(kind, id);
    return c.body(null, 204);
  });

  return app;
}
