import { Hono } from 'hono';
import { streamSSE } from 'hono/streaming';
import type { JobService } from '../services/JobService.ts';

/** So often (ms) something is said where nothing happens, so that a connection that broke is noticed. */
const STILL_HERE = 20_000;

/** What is changed, said to every page that listens, as it happens. */
export function eventRoutes(jobs: JobService): Hono {
  const app = new Hono();
  app.get('/', (c) =>
    streamSSE(c, async (stream) => {
      const stop = jobs.listen((change) => void stream.writeSSE({ event: 'job', data: JSON.stringify(change) }));
      stream.onAbort(stop);
      await stream.writeSSE({ event: 'here', data: '' });
      while (!stream.aborted) {
        await stream.sleep(STILL_HERE);
        await stream.writeSSE({ event: 'here', data: '' });
      }
    }),
  );
  return app;
}
