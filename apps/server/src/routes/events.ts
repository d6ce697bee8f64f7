import type { Person } from '@isola/contract';
import { Hono } from 'hono';
import { streamSSE } from 'hono/streaming';
import { z } from 'zod';
import type { Bus, BusMessage } from '../services/Bus.ts';
import type { People } from '../services/People.ts';
import { tokenOf } from './people.ts';
import { validate } from './validate.ts';
import { may } from './may.ts';

/** So often (ms) something is said where nothing happens, so that a connection that broke is noticed; and it is looked whether the session goes on. */
const STILL_HERE = 20_000;

/** Which jobs a page wants to hear of; none named: of all. */
const Wanted = z.object({
  job: z
    .union([z.uuid(), z.array(z.uuid()).max(50)])
    .optional()
    .transform((ids) => (ids === undefined ? undefined : new Set([ids].flat()))),
});

/** What is changed, said to every page that listens, as it happens, until the server is `closing` or the session of who listens is over. */
export function eventRoutes(bus: Bus, people: People | undefined, closing?: AbortSignal): Hono {
  const app = new Hono();
  app.get('/', may('guest'), validate('query', Wanted), (c) => {
    const wanted = c.req.valid('query').job;
    return streamSSE(c, async (stream) => {
      const token = tokenOf(c);
      const person: Person | undefined = c.get('person');
      let leave = (): void => undefined;
      const left = new Promise<void>((resolve) => (leave = resolve));
      const say = (event: string, data: object | '' = ''): Promise<void> =>
        stream.writeSSE({ event, data: data === '' ? '' : JSON.stringify(data) });
      const look = async (): Promise<void> => {
        if (people === undefined) return;
        // A database that does not answer says nothing of the session; the next look will.
        const isHere = await people.who(token ?? '', false).then(
          (found) => found !== undefined,
          () => true,
        );
        if (isHere) return;
        await say('out');
        leave();
      };
      const hear = (message: BusMessage | 'again'): void => {
        if (message === 'again') void say('again');
        else if (message.kind === 'sessions') void (message.personId === person?.id && look());
        else if (wanted?.has(message.id) !== false) {
          const { kind, ...data } = message;
          void say(kind, data);
        }
      };
      const stop = bus.listen(hear);
      const timer = setInterval(() => void say('here').then(look), STILL_HERE).unref();
      await say('here');
      stream.onAbort(leave);
      closing?.addEventListener('abort', leave);
      await left;
      closing?.removeEventListener('abort', leave);
      clearInterval(timer);
      stop();
    });
  });
  return app;
}
