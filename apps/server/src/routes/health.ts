import { statfs } from 'node:fs/promises';
import { Hono } from 'hono';
import type { Models } from '../db/models/index.ts';
import type { DesignPool } from '../workers/DesignPool.ts';

/** A database that has not answered after this (ms) is said not to answer. */
const PATIENCE = 2000;
/** Less room on the disk than this (bytes) is said: an order's files take a few MB. */
const LITTLE = 200 * 1048576;

/** How the server is, for who looks after it: always answered, and soon. */
export function healthRoutes(models: Models, pool: DesignPool, databaseDir: string | undefined): Hono {
  const app = new Hono();
  app.get('/', async (c) => {
    const isAnswering = await Promise.race([
      models.sequelize.query('select 1').then(
        () => true,
        () => false,
      ),
      new Promise<boolean>((resolve) => setTimeout(() => resolve(false), PATIENCE)),
    ]);
    const rooms = (await Promise.all([process.cwd(), databaseDir].map(roomAt))).filter((room) => room !== undefined);
    const free = rooms.length === 0 ? undefined : Math.min(...rooms);
    const state = {
      status: !isAnswering ? 'database does not answer' : free !== undefined && free < LITTLE ? 'disk is nearly full' : 'ok',
      database: isAnswering ? 'ok' : 'does not answer',
      freeMegabytes: free === undefined ? null : Math.floor(free / 1048576),
      memoryMegabytes: Math.ceil(process.memoryUsage.rss() / 1048576),
      work: pool.state,
    };
    return c.json(state, isAnswering ? 200 : 503);
  });
  return app;
}

/** Bytes that can still be written to the disk of a folder, where that is known. */
async function roomAt(folder: string | undefined): Promise<number | undefined> {
  const disk = folder === undefined ? undefined : await statfs(folder).catch(() => undefined);
  return disk === undefined ? undefined : disk.bavail * disk.bsize;
}
