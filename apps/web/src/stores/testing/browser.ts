import 'fake-indexeddb/auto';
import { deleteDB } from 'idb';
import type { StandInServer } from './StandInServer.ts';

const held = new Set<string>();
let locks: { request: (name: string, ...rest: unknown[]) => Promise<unknown> };

/** Lets pages reach a server, in a browser that keeps nothing at first. */
export async function serveFrom(server: StandInServer): Promise<void> {
  const memory = new Map<string, string>();
  closeWindows();
  locks = {
    // As browsers give them to windows of one origin.
    async request(name, options, act) {
      if (act === undefined) {
        held.add(name);
        return (options as () => Promise<unknown>)();
      }
      return (act as (lock: object | null) => Promise<unknown>)(held.has(name) ? null : {});
    },
  };
  Object.assign(globalThis.navigator, { locks });
  Object.assign(globalThis, {
    localStorage: {
      get length() {
        return memory.size;
      },
      key: (k: number) => [...memory.keys()][k] ?? null,
      getItem: (k: string) => memory.get(k) ?? null,
      setItem: (k: string, v: string) => memory.set(k, v),
      removeItem: (k: string) => memory.delete(k),
    },
    fetch: (at: string, init: RequestInit) => server.answer(at, init),
    EventSource: class {
      addEventListener(_: string, hear: (event: { data: string }) => void): void {
        server.pages.add((change) => hear({ data: JSON.stringify(change) }));
      }
      close(): void {
        server.pages.clear();
      }
    },
  });
  await deleteDB('isola');
}

/** All windows that were opened so far are closed: the steps that they left are nobody's. */
export function closeWindows(): void {
  held.clear();
}
