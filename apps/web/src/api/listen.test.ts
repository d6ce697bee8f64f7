import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import type { JobChange } from '@isola/contract';
import { createPinia, setActivePinia } from 'pinia';
import { hearChanges } from '../stores/hearChanges.ts';
import { useNotices } from '../stores/notices.ts';
import { hearOut, listen } from './listen.ts';

/** What the server says by itself, as a browser hears it. */
class Events extends EventTarget {
  static readonly made: Events[] = [];
  static readonly CLOSED = 2;
  isClosed = false;
  readyState = 1;
  readonly at: string;
  constructor(at: string) {
    super();
    this.at = at;
    Events.made.push(this);
  }
  close(): void {
    this.isClosed = true;
  }
  open(): void {
    this.dispatchEvent(new Event('open'));
  }
  say(change: object, event = 'job'): void {
    this.dispatchEvent(new MessageEvent(event, { data: JSON.stringify(change) }));
  }
}
const real = [globalThis.EventSource, globalThis.fetch] as const;
let answer: () => { status: number; body: unknown };
beforeEach(() => {
  Events.made.length = 0;
  setActivePinia(createPinia());
  globalThis.EventSource = Events as unknown as typeof EventSource;
  globalThis.fetch = jest.fn(() => {
    const { status, body } = answer();
    const headers = new Map([['Content-Type', status === 200 ? 'application/json' : 'application/problem+json']]);
    return Promise.resolve({ ok: status === 200, status, headers, json: () => Promise.resolve(body) });
  }) as unknown as typeof fetch;
});
afterEach(() => {
  [globalThis.EventSource, globalThis.fetch] = real;
});
const settle = async (): Promise<void> => {
  for (let k = 0; k < 10; k++) await Promise.resolve();
};

describe('what other windows do', () => {
  test('is heard over one connection for all who listen, which is closed with the last of them', () => {
    const heard: string[] = [];
    const lookAgain = (): void => undefined;
    const stops = ['a', 'b'].map((who) => listen({ hear: ({ id }) => heard.push(`${who} ${id}`), lookAgain }));
    expect(Events.made).toHaveLength(1);
    Events.made[0]!.say({ id: 'one', version: 3 });
    stops[0]!();
    Events.made[0]!.say({ id: 'two', version: 1 });
    expect(heard).toEqual(['a one', 'b one', 'b two']);
    expect(Events.made[0]!.isClosed).toBe(false);
    stops[1]!();
    expect(Events.made[0]!.isClosed).toBe(true);
    listen({ hear: () => undefined, lookAgain })();
    expect(Events.made).toHaveLength(2);
  });

  test('is asked for of the jobs that are shown alone; where that changes, what was missed in between is looked for', () => {
    const heard: string[] = [];
    const hearer = (job: string | undefined, name: string) => ({
      ...(job === undefined ? {} : { job }),
      hear: ({ id }: JobChange) => heard.push(`${name} hears of ${id}`),
      lookAgain: () => heard.push(`${name} looks`),
      hearPresence: ({ id }: { id: string }) => heard.push(`${name} sees ${id}`),
    });
    const first = listen(hearer('one', 'a'));
    const same = listen(hearer('one', 'b'));
    expect(Events.made.map(({ at }) => at)).toEqual(['/api/events?job=one']);
    Events.made[0]!.open();
    const other = listen(hearer('two', 'c'));
    expect([Events.made[0]!.isClosed, Events.made[1]!.at]).toEqual([true, '/api/events?job=one&job=two']);
    Events.made[1]!.open();
    Events.made[1]!.say({ id: 'two', version: 1 });
    Events.made[1]!.say({ id: 'one' }, 'presence');
    expect(heard.splice(0)).toEqual(['a looks', 'b looks', 'c looks', 'c hears of two', 'a sees one', 'b sees one']);
    const all = listen(hearer(undefined, 'd'));
    expect(Events.made[2]!.at).toBe('/api/events');
    Events.made[2]!.say({}, 'again');
    expect(heard.splice(0)).toEqual(['a looks', 'b looks', 'c looks', 'd looks']);
    for (const stop of [all, other, same, first]) stop();
    expect(Events.made.at(-1)!.isClosed).toBe(true);
  });

  test('is not heard any more where a session ended elsewhere, and asked for again once the server refused it', () => {
    jest.useFakeTimers();
    try {
      let out = 0;
      hearOut(() => out++);
      const stop = listen({ hear: () => undefined, lookAgain: () => undefined });
      Events.made[0]!.say({}, 'out');
      expect(out).toBe(1);
      // The browser tries a lost connection again by itself; what was refused it gives up.
      Events.made[0]!.dispatchEvent(new Event('error'));
      jest.advanceTimersByTime(10_000);
      expect(Events.made).toHaveLength(1);
      Events.made[0]!.readyState = Events.CLOSED;
      Events.made[0]!.dispatchEvent(new Event('error'));
      jest.advanceTimersByTime(10_000);
      expect(Events.made).toHaveLength(2);
      stop();
    } finally {
      jest.useRealTimers();
    }
  });

  test('is looked for again when the connection was lost for a while: what a job is at by then, or that it is gone', async () => {
    const followed: JobChange[] = [];
    const stop = hearChanges('one', (change) => {
      followed.push(change);
      return Promise.resolve();
    });
    const [events] = Events.made as [Events];
    // The first connection missed nothing.
    events.open();
    await settle();
    expect(followed).toEqual([]);
    answer = () => ({ status: 200, body: { version: 7 } });
    events.open();
    await settle();
    answer = () => ({ status: 404, body: { title: 'Not found', detail: 'gone' } });
    events.open();
    await settle();
    // Where the server cannot be asked either, nothing is said of the job.
    answer = () => ({ status: 503, body: { title: 'The database does not answer', detail: '' } });
    events.open();
    await settle();
    expect(followed).toEqual([
      { id: 'one', version: 7 },
      { id: 'one', version: null },
    ]);
    stop();
  });

  test('that cannot be followed is said and ends nothing', async () => {
    const stop = hearChanges('one', () => Promise.reject(new Error('it does not fit')));
    Events.made[0]!.say({ id: 'one', version: 2 });
    await settle();
    expect(useNotices().notice).toMatchObject({ kind: 'bad', text: 'it does not fit' });
    stop();
  });
});
