import type { ShopSignature } from '@isola/contract';
import { type Context, Hono } from 'hono';
import { z } from 'zod';
import { Problem } from '../problem.ts';
import { SHOP_KINDS, SHOP_LISTS, type ShopService, THE_RULES } from '../services/ShopService.ts';
import { signedBy } from './people.ts';
import { validate } from './validate.ts';
import { may } from './may.ts';

const RecordPath = z.object({ kind: z.enum(SHOP_KINDS), id: z.string().min(1).max(100) });
const Signature = z.object({ who: z.string().trim().min(1, 'say who changes it').max(200), why: z.string().trim().max(2000).default('') });
/** `was`: the record as it was when the change was begun; null where there was none. */
const Put = Signature.extend({ record: z.unknown(), was: z.unknown().optional() });
const ChangePath = z.object({ id: z.uuid() });

export function shopRoutes(shop: ShopService): Hono {
  const app = new Hono();

  app.get('/', may('guest'), async (c) => c.json(await shop.list()));

  app.get('/changes', may('guest'), async (c) => c.json(await shop.changes()));

  app.post(
    '/changes/:id/undo',
    may('digitizer', { says: 'took a change of the shop back' }),
    validate('param', ChangePath),
    validate('json', Signature),
    async (c) => {
      await shop.undo(c.req.valid('param').id, signed(c, c.req.valid('json')));
      return c.json(await shop.list());
    },
  );

  app.post(
    '/defaults',
    may('digitizer', { says: 'put the records of the shop back as they began' }),
    validate('json', Signature),
    async (c) => {
      await shop.restoreDefaults(signed(c, c.req.valid('json')));
      return c.json(await shop.list());
    },
  );

  app.put('/rules', may('digitizer', { says: 'changed the rulebook' }), validate('json', Put), async (c) => {
    const { record, was, ...signature } = c.req.valid('json');
    await shop.put(THE_RULES.kind, THE_RULES.id, parse(THE_RULES.schema, record), signed(c, signature), was);
    return c.json(await shop.list());
  });

  app.get('/:kind/:id/uses', may('guest'), validate('param', RecordPath), async (c) => {
    const { kind, id } = c.req.valid('param');
    return c.json(await shop.usesOf(kind, id));
  });

  app.put(
    '/:kind/:id',
    may('digitizer', { says: 'changed a record of the shop' }),
    validate('param', RecordPath),
    validate('json', Put),
    async (c) => {
      const { kind, id } = c.req.valid('param');
      const { record, was, ...signature } = c.req.valid('json');
      const data = parse<{ id: string }>(SHOP_LISTS[kind].schema, record);
      if (data.id !== id) throw new Problem(422, 'The request does not fit', `The record calls itself ${data.id}, the address ${id}.`);
      await shop.put(kind, id, data, signed(c, signature), was);
      return c.json(await shop.list());
    },
  );

  app.delete(
    '/:kind/:id',
    may('digitizer', { says: 'deleted a record of the shop' }),
    validate('param', RecordPath),
    validate('json', Signature),
    async (c) => {
      const { kind, id } = c.req.valid('param');
      await shop.remove(kind, id, signed(c, c.req.valid('json')));
      return c.json(await shop.list());
    },
  );

  return app;
}

/** Under the name of their account, where people sign in. */
const signed = (c: Context, signature: ShopSignature): ShopSignature => ({ ...signature, who: signedBy(c, signature.who) });

function parse<T>(schema: z.ZodType<T>, value: unknown): T {
  const read = schema.safeParse(value);
  if (!read.success) throw new Problem(422, 'The request does not fit', z.prettifyError(read.error));
  return read.data;
}
