import { hostname } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { readConfig } from '../config.ts';
import { openDatabase } from '../db/connect.ts';
import { openQueue, stop } from '../db/queue.ts';
import { DesignPool } from './DesignPool.ts';
import { runAudits } from './runAudits.ts';

// One worker of audits: beside the server that started it, or by itself on another machine that reaches the same database.

const here = path.dirname(fileURLToPath(import.meta.url));
const { databaseUrl } = readConfig(process.env, path.resolve(here, '../../..'));
const models = openDatabase(databaseUrl);
const boss = await openQueue(databaseUrl, (error) => console.error('The queue of audits:', error.message), false).catch(
  (error: unknown) => {
    const reason = error instanceof Error ? error.message : String(error);
    console.error(`This worker cannot start: the database does not answer, or no server has prepared it yet (${reason}).`);
    process.exit(1);
  },
);
const pool = new DesignPool(path.join(here, 'design.worker.js'));
const end = runAudits({ models, boss, pool, name: `${hostname()} ${process.pid}` });
process.send?.('ready');
if (process.send === undefined) console.log('This worker judges files as they come; end it with Ctrl+C.');

let isEnding = false;
async function finish(): Promise<void> {
  if (isEnding) return;
  isEnding = true;
  // The file in hand goes back to the queue.
  await pool.close();
  await end();
  await stop(boss);
  await models.sequelize.close();
  process.exit(0);
}
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void finish());
// Without the server that started it a worker ends; others go on.
process.once('disconnect', () => void finish());
