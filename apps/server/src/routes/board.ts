import { BoardPlan } from '@isola/core';
import { Hono } from 'hono';
import { z } from 'zod';
import type { BoardService } from '../services/BoardService.ts';
import { validate } from './validate.ts';
import { may } from './may.ts';

const Written = z.object({ version: z.number().int().nonnegative(), plan: BoardPlan });

export function boardRoutes(board: BoardService): Hono {
  const app = new Hono();

  app.get('/', may('guest'), async (c) => c.json(await board.read()));

  app.put('/', may('operator', { says: 'changed the board' }), validate('json', Written), async (c) => {
    const { version, plan } = c.req.valid('json');
    return c.json(await board.write(version, plan));
  });

  return app;
}
