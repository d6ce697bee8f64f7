import path from 'node:path';
import { designSchema } from '@isola/core';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono, type MiddlewareHandler } from 'hono';
import { except } from 'hono/combine';
import { secureHeaders } from 'hono/secure-headers';
import type { DesignPool } from './workers/DesignPool.ts';
import type { Config } from './config.ts';
import type { Models } from './db/models/index.ts';
import { Problem, respondWithProblem } from './problem.ts';
import { addressOf, findAddress } from './routes/addressOf.ts';
import { noteRequest } from './routes/noteRequest.ts';
import { presenceRoutes } from './routes/presence.ts';
import { exportRoutes } from './routes/export.ts';
import { eventRoutes } from './routes/events.ts';
import { healthRoutes } from './routes/health.ts';
import { may, termsOf, termsOfHandler } from './routes/may.ts';
import { limitBody } from './routes/validate.ts';
import { jobFileRoutes } from './routes/jobFiles.ts';
import { jobRoutes } from './routes/jobs.ts';
import { shopRoutes } from './routes/shop.ts';
import { auditRoutes } from './routes/audits.ts';
import { boardRoutes } from './routes/board.ts';
import { createMetrics } from './routes/metrics.ts';
import { noteHappenings } from './routes/noteHappenings.ts';
import { guard, peopleRoutes, sessionRoutes } from './routes/people.ts';
import { sewOutRoutes } from './routes/sewOuts.ts';
import type { Bus } from './services/Bus.ts';
import { Quotas } from './services/Quotas.ts';
import { Presences } from './services/Presences.ts';
import type { Audits } from './services/Audits.ts';
import { Happenings } from './services/Happenings.ts';
import type { People } from './services/People.ts';
import { BoardService } from './services/BoardService.ts';
import type { JobService } from './services/JobService.ts';
import type { SewOuts } from './services/SewOuts.ts';
import type { ShopService } from './services/ShopService.ts';

export interface Services {
  readonly models: Models;
  readonly bus: Bus;
  readonly jobs: JobService;
  readonly shop: ShopService;
  readonly pool: DesignPool;
  readonly audits: Audits;
  readonly sewOuts: SewOuts;
  /** None: there are no accounts, and whoever reaches the server may do everything. */
  readonly people?: People | undefined;
  /** Ends what goes on for as long as a page is open, so that the server can end. */
  readonly closing?: AbortSignal;
}

/** What a request may carry where its route says nothing else. */
const SMALL = 1024 * 1024;
/** What brings a file is let through where there is room for it. */
function limitFiles(quotas: Quotas): MiddlewareHandler {
  return async (c, next) => {
    const takes = termsOf(c)?.takes;
    if (takes === 'file' || takes === 'listed-file') await quotas.findRoom();
    if (takes === 'file') await quotas.letSend(c.get('person')?.id ?? addressOf(c));
    await next();
  };
}

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];

/** The whole application: the interface under /api, and the built web application for every other address. */
export function createApp(
  config: Pick<Config, 'host' | 'webDir' | 'databaseDir'> & Partial<Pick<Config, 'publicUrl' | 'proxies' | 'quota' | 'backupsDir'>>,
  { models, bus, jobs, shop, pool, audits, sewOuts, people, closing }: Services,
): Hono {
  const app = new Hono();
  app.onError((error, c) => respondWithProblem(error, c));

  app.use(
    secureHeaders({
      contentSecurityPolicy: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        styleSrc: ["'self'", "'unsafe-inline'"],
        workerSrc: ["'self'", 'blob:'],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
      xFrameOptions: 'DENY',
      // On loopback a promise of HTTPS would lock other programs of the machine out of the browser.
      strictTransportSecurity: config.publicUrl?.startsWith('https:') === true ? 'max-age=31536000' : false,
    }),
  );

  app.use(findAddress(config.proxies ?? []));
  app.use('/api/*', noteRequest);

  // A page elsewhere must not reach this server through the user's browser: neither under another name, nor from another origin.
  const names = [...LOOPBACK, config.host, ...(config.publicUrl === undefined ? [] : [new URL(config.publicUrl).hostname])];
  app.use('/api/*', async (c, next) => {
    const host = (c.req.header('host') ?? '').replace(/:\d+$/, '');
    if (!names.includes(host)) throw new Problem(421, 'Request refused', `This server does not answer as ${host}.`);
    const origin = c.req.header('origin');
    const isForeign = origin !== undefined && !(URL.canParse(origin) && new URL(origin).host === c.req.header('host'));
    // Browsers say from where a page asks; other programs of this machine, which say nothing, may ask.
    const site = c.req.header('sec-fetch-site') ?? 'same-origin';
    const isLink = c.req.method === 'GET' && c.req.header('sec-fetch-mode') === 'navigate';
    if (isForeign || (site !== 'same-origin' && site !== 'none' && !isLink))
      throw new Problem(403, 'Request refused', 'This is answered to the pages of this application only.');
    await next();
    if (!c.res.headers.has('Cache-Control')) c.header('Cache-Control', 'no-store');
  });

  // After what tells pages of other origins apart, before all that is asked.
  const metrics = createMetrics(models, pool);
  app.use('/api/*', metrics.take);
  const happenings = new Happenings(models);
  if (people !== undefined) app.use('/api/*', noteHappenings(happenings));
  app.use('/api/*', guard(people));
  if (config.quota !== undefined) app.use('/api/*', limitFiles(new Quotas(models, config.quota)));
  const limitSmall = limitBody(SMALL, 'This is too large', 'A request of this kind takes up to 1 MB.');
  app.use(
    '/api/*',
    except((c) => (termsOf(c)?.takes ?? 'small') !== 'small', limitSmall),
  );
  app.route('/api/metrics', metrics.routes);
  app.route('/api/health', healthRoutes(models, pool, config));
  app.route('/api/jobs', presenceRoutes(new Presences(models, bus)));
  app.route('/api/jobs', jobRoutes(jobs, shop));
  app.route('/api/jobs', jobFileRoutes(jobs, shop));
  app.route('/api/shop', shopRoutes(shop));
  app.route('/api/audits', auditRoutes(audits, closing));
  app.route('/api/sew-outs', sewOutRoutes(sewOuts));
  app.route('/api/session', sessionRoutes(people));
  if (people !== undefined) app.route('/api/people', peopleRoutes(people, happenings));
  app.route('/api/board', boardRoutes(new BoardService(models)));
  app.get('/api/design-schema', may('guest'), (c) => c.json(designSchema()));
  app.route('/api/export', exportRoutes(models, { jobs, shop, sewOuts }));
  app.route('/api/events', eventRoutes(bus, people, closing));
  refuseWithoutTerms(app);
  app.all('/api/*', (c) => {
    throw new Problem(404, 'Not found', `There is nothing at ${c.req.path}.`);
  });

  const root = path.relative(process.cwd(), config.webDir);
  app.use('/assets/*', async (c, next) => {
    await next();
    if (c.res.ok) c.header('Cache-Control', 'public, max-age=31536000, immutable');
  });
  // The page names its assets by their content: it is asked for anew each time, they never.
  app.use('*', async (c, next) => {
    await next();
    if (!c.res.headers.has('Cache-Control')) c.header('Cache-Control', 'no-cache');
  });
  app.use('*', serveStatic({ root }));
  app.get('/assets/*', (c) => c.text('There is no such file; load the page again.', 404));
  app.get('*', serveStatic({ root, path: 'index.html' }));
  return app;
}

/** A route that says not who may ask it does not come into being. @throws where there is one. */
export function refuseWithoutTerms({ routes }: Hono): void {
  const nameOf = ({ method, path }: (typeof routes)[number]): string => `${method} ${path}`;
  const known = new Set(routes.filter(({ handler }) => termsOfHandler(handler) !== undefined).map(nameOf));
  const without = routes.filter(({ method, path }) => method !== 'ALL' && path.startsWith('/api/')).map(nameOf);
  for (const name of without) if (!known.has(name)) throw new Error(`${name} says not who may ask it: put may(…) before its handler`);
}
