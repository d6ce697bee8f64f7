import { setMaxListeners } from 'node:events';
import path from 'node:path';
import { serve, type ServerType } from '@hono/node-server';
import { createApp } from './app.ts';
import type { Config } from './config.ts';
import { connectDatabase } from './db/connect.ts';
import { openQueue, stop as stopQueue } from './db/queue.ts';
import { Audits } from './services/Audits.ts';
import { Bus } from './services/Bus.ts';
import { JobService } from './services/JobService.ts';
import { seed } from './services/seed.ts';
import { People } from './services/People.ts';
import { SewOuts } from './services/SewOuts.ts';
import { ShopService } from './services/ShopService.ts';
import { log } from './log.ts';
import { AuditWorkers } from './workers/AuditWorkers.ts';
import { DesignPool } from './workers/DesignPool.ts';

/** Requests that take longer than this (ms) when the server is told to end are cut off. */
const LONGEST_WAIT = 20_000;
/** Requests whose head or body comes more slowly than this (ms) end. */
const TIMES = { headersTimeout: 15_000, requestTimeout: 120_000, connectionsCheckingInterval: 5000 };
/** So often (ms) it is looked whether deleted jobs are to go. */
const CLEAR_EVERY = 6 * 3_600_000;
/** How many ports from the default one on are tried when nobody asked for a certain one. */
const PORTS_TRIED = 20;

/** One process of the server, from the database to the address: it goes on until it is told to end. `here`: the folder of the bundles. */
export async function serveShop(config: Config, here: string): Promise<void> {
  const models = await connectDatabase(config.databaseUrl, { ownerUrl: config.databaseOwnerUrl }).catch((error: unknown) => {
    const reason = error instanceof Error ? error.message : String(error);
    console.error(`Isola cannot start: the database does not answer (${reason}). Start it (npm run db start), then try again.`);
    process.exit(1);
  });
  const pool = new DesignPool(path.join(here, 'design.worker.js'));
  const bus = new Bus(models, config.databaseUrl);
  await bus.open();
  const jobs = new JobService(models, pool, bus);
  const shop = new ShopService(models);
  await seed(models, shop, jobs, config.hasDemo ? config.demoDir : undefined);
  if (config.isFirst) await jobs.clear();
  if (config.isFirst)
    setInterval(
      () => void jobs.clear().catch((error: unknown) => log.error('deleted jobs could not be let go', error)),
      CLEAR_EVERY,
    ).unref();
  const queue = await openQueue(config.databaseUrl, (error) => log.warn('the queue of audits', error.message), true);
  const people = config.hasAccounts ? new People(models, bus) : undefined;
  if (config.isFirst && people !== undefined && (await models.Person.count()) === 0)
    log.info('Nobody can sign in yet: npm run owner prints a link for the first one.');
  const closing = new AbortController();
  // Every page that is open listens.
  setMaxListeners(0, closing.signal);
  const app = createApp(config, {
    models,
    bus,
    jobs,
    shop,
    pool,
    audits: new Audits(models, queue, jobs),
    sewOuts: new SewOuts(models),
    people,
    closing: closing.signal,
  });
  const { server, port } = await listen(app.fetch, config);
  const auditWorkers = new AuditWorkers(path.join(here, 'audit.worker.js'), config.auditWorkers);
  if (config.isFirst) void jobs.recounts.all().catch((error: unknown) => log.error('findings could not be counted anew', error));
  if (config.isFirst)
    log.info(`Isola is at ${config.publicUrl ?? `http://${config.host === '127.0.0.1' ? 'localhost' : config.host}:${port}`}`);

  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void stop());

  /** Lets requests that run finish, then ends. What was acknowledged is in the database by then. */
  async function stop(): Promise<void> {
    closing.abort();
    await new Promise<void>((resolve) => {
      server.close(() => resolve());
      // Connections are kept open for the next request, which will not come: those that fall idle are closed as they do.
      if ('closeIdleConnections' in server) setInterval(() => server.closeIdleConnections(), 50).unref();
      setTimeout(() => resolve(), LONGEST_WAIT).unref();
    });
    jobs.recounts.close();
    await Promise.all([pool.close(), auditWorkers.close()]);
    await stopQueue(queue);
    await bus.close();
    await models.sequelize.close();
    process.exit(0);
  }
}

type Fetch = Parameters<typeof serve>[0]['fetch'];

async function listen(fetch: Fetch, config: Config): Promise<{ server: ServerType; port: number }> {
  for (let tried = 0; ; tried++) {
    try {
      return await listenOn(fetch, config.host, config.port + tried);
    } catch (error) {
      const isTaken = (error as { code?: string }).code === 'EADDRINUSE';
      if (isTaken && !config.isPortFixed && tried < PORTS_TRIED) continue;
      if (isTaken) throw new Error(`Port ${config.port + tried} is taken by another program; set PORT to a free one.`, { cause: error });
      throw error;
    }
  }
}

function listenOn(fetch: Fetch, hostname: string, wanted: number): Promise<{ server: ServerType; port: number }> {
  return new Promise((resolve, reject) => {
    const options = { fetch, hostname, port: wanted, serverOptions: TIMES };
    const created = serve(options, (info) => resolve({ server: created, port: info.port }));
    created.once('error', reject);
  });
}
