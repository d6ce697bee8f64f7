import path from 'node:path';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { secureHeaders } from 'hono/secure-headers';
import type { Config } from './config.ts';
import type { Models } from './db/models/index.ts';
import { Problem, respondWithProblem } from './problem.ts';
import { eventRoutes } from './routes/events.ts';
import { jobRoutes } from './routes/jobs.ts';
import { shopRoutes } from './routes/shop.ts';
import type { JobService } from './services/JobService.ts';
import type { ShopService } from './services/ShopService.ts';

export interface Services {
  readonly models: Models;
  readonly jobs: JobService;
  readonly shop: ShopService;
}

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];

/** The whole application: the interface under /api, and the built web application for every other address. */
export function createApp(config: Pick<Config, 'host' | 'webDir'>, { models, jobs, shop }: Services): Hono {
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
      // Plain HTTP on loopback: a promise of HTTPS for this host would lock other programs of the machine out of the browser.
      strictTransportSecurity: false,
    }),
  );

  // A page elsewhere must not reach this server through the user's browser: neither under another name, nor from another origin.
  const names = [...LOOPBACK, config.host];
  app.use('/api/*', async (c, next) => {
    const host = (c.req.header('host') ?? '').replace(/:\d+$/, '');
    if (config.host !== '0.0.0.0' && !names.includes(host))
      throw new Problem(421, 'Request refused', `This server does not answer as ${host}.`);
    const origin = c.req.header('origin');
    if (origin !== undefined && c.req.method !== 'GET' && !originMatches(origin, c.req.header('host') ?? '')) {
      throw new Problem(403, 'Request refused', 'Changes are taken from this application only.');
    }
    await next();
    c.header('Cache-Control', 'no-store');
  });

  app.get('/api/health', async (c) => {
    await models.sequelize.query('select 1');
    return c.json({ status: 'ok', database: 'ok' });
  });
  app.route('/api/jobs', jobRoutes(jobs));
  app.route('/api/shop', shopRoutes(shop));
  app.route('/api/events', eventRoutes(jobs));
  app.all('/api/*', (c) => {
    throw new Problem(404, 'Not found', `There is nothing at ${c.req.path}.`);
  });

  const root = path.relative(process.cwd(), config.webDir);
  app.use('/assets/*', async (c, next) => {
    await next();
    if (c.res.ok) c.header('Cache-Control', 'public, max-age=31536000, immutable');
  });
  app.use('*', serveStatic({ root }));
  app.get('*', serveStatic({ root, path: 'index.html' }));
  return app;
}

/** In development the web application is served by Vite under another port of this machine. */
function originMatches(origin: string, host: string): boolean {
  if (!URL.canParse(origin)) return false;
  const url = new URL(origin);
  return url.host === host || LOOPBACK.includes(url.hostname);
}
