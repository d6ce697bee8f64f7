import { readFile, statfs } from 'node:fs/promises';
import path from 'node:path';
import { Hono } from 'hono';
import { z } from 'zod';
import type { Models } from '../db/models/index.ts';
import type { DesignPool } from '../workers/DesignPool.ts';
import { may } from './may.ts';

/** A database that has not answered after this (ms) is said not to answer. */
const PATIENCE = 2000;
/** Less room on the disk than this (bytes) is said: an order's files take a few MB. */
const LITTLE = 200 * 1048576;

/** How the server is, for who looks after it: always answered, and soon. */
export function healthRoutes(
  models: Models,
  pool: DesignPool,
  { databaseDir, backupsDir }: { readonly databaseDir: string | undefined; readonly backupsDir?: string | undefined },
): Hono {
  const app = new Hono();
  app.get('/', may('anybody'), async (c) => {
    const isAnswering = await Promise.race([
      models.sequelize.query('select 1').then(
        () => true,
        () => false,
      ),
      new Promise<boolean>((resolve) => setTimeout(() => resolve(false), PATIENCE)),
    ]);
    const rooms = (await Promise.all([process.cwd(), databaseDir].map(roomAt))).filter((room) => room !== undefined);
    const free = rooms.length === 0 ? undefined : Math.min(...rooms);
    const backup = backupsDir === undefined ? undefined : await lastBackup(backupsDir);
    const isFull = free !== undefined && free < LITTLE;
    const state = {
      status: !isAnswering ? 'database does not answer' : isFull ? 'disk is nearly full' : (sayBackup(backup, Date.now()) ?? 'ok'),
      ...(backup === undefined ? {} : { backup }),
      database: isAnswering ? 'ok' : 'does not answer',
      freeMegabytes: free === undefined ? null : Math.floor(free / 1048576),
      memoryMegabytes: Math.ceil(process.memoryUsage.rss() / 1048576),
      work: pool.state,
    };
    return c.json(state, isAnswering ? 200 : 503);
  });
  return app;
}

const Backup = z.object({ at: z.iso.datetime(), isSound: z.boolean(), megabytes: z.number(), says: z.string() });

/** What came of the last nightly backup, where there was one. */
async function lastBackup(folder: string): Promise<z.infer<typeof Backup> | undefined> {
  const text = await readFile(path.join(folder, 'last.json'), 'utf8').catch(() => undefined);
  try {
    return Backup.safeParse(JSON.parse(text ?? '')).data;
  } catch {
    return undefined;
  }
}

/** After so long (ms) without a backup it is said. */
const TOO_OLD = 50 * 3_600_000;

/** What is wrong with backups; nothing where they are sound, or were never made. */
function sayBackup(backup: z.infer<typeof Backup> | undefined, now: number): string | undefined {
  if (backup === undefined) return undefined;
  if (!backup.isSound) return 'the last backup is not sound';
  return now - Date.parse(backup.at) > TOO_OLD ? 'the last backup is days old' : undefined;
}

/** Bytes that can still be written to the disk of a folder, where that is known. */
async function roomAt(folder: string | undefined): Promise<number | undefined> {
  const disk = folder === undefined ? undefined : await statfs(folder).catch(() => undefined);
  return disk === undefined ? undefined : disk.bavail * disk.bsize;
}
