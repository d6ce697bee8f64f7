import { Hono } from 'hono';
import { streamSSE } from 'hono/streaming';
import type { JobService } from '../services/JobService.ts';

/** So often (ms) something is said where nothing happens, so that a connection that broke is noticed. */
const STILL_HERE = 20_000;

/** What is changed, said to every page that listens, as it happens, until the server is `closing`. */
export function eventRoutes(jobs: JobService, closing?: AbortSignal): Hono {
  const app = new Hono();
  app.get('/', (c) =>
    streamSSE(c, async (stream) => {
      const stop = jobs.listen((change) => void stream.writeSSE({ event: 'job', data: JSON.stringify(change) }));
      const isHere = (): Promise<void> => stream.writeSSE({ event: 'here', data: '' });
      const timer = setInterval(() => void isHere(), STILL_HERE).unref();
      await isHere();
      await new Promise<void>((resolve) => {
        const leave = (): void => {
          closing?.removeEventListener('abort', leave);
          resolve();
        };
        stream.onAbort(leave);
        closing?.addEventListener('abort', leave);
      });
      clearInterval(timer);
      stop();
    }),
  );
  return app;
}
