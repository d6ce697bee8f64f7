import { afterEach, beforeEach } from '@jest/globals';
import { createPinia, setActivePinia } from 'pinia';
import { serveFrom } from './browser.ts';
import { StandInServer } from './StandInServer.ts';
import '../../workers/testing/quietWorkers.ts';

const { useBench } = await import('../bench.ts');
const { useOutbox } = await import('../outbox.ts');

/** The server that the windows of a test are at; another one for each test of a file that calls {@link setWindows}. */
export let server: StandInServer;

export type Bench = ReturnType<typeof useBench>;
export interface OpenWindow {
  readonly bench: Bench;
  readonly outbox: ReturnType<typeof useOutbox>;
}
const opened: OpenWindow[] = [];

/** Before each test a server with two jobs, after it all windows closed. */
export function setWindows(): void {
  beforeEach(async () => {
    server = new StandInServer();
    server.journals.set('one', []).set('two', []);
    await serveFrom(server);
  });
  afterEach(() =>
    opened.splice(0).forEach(({ bench, outbox }) => {
      bench.close();
      outbox.queues = new Map();
    }),
  );
}

/** A window of its own beside those that are open. */
export async function openWindow(id = 'one'): Promise<OpenWindow> {
  setActivePinia(createPinia());
  const [bench, outbox] = [useBench(), useOutbox()];
  opened.push({ bench, outbox });
  await bench.open(id);
  return { bench, outbox };
}

export async function until(isSo: () => boolean | Promise<boolean>): Promise<void> {
  for (let k = 0; k < 500; k++) {
    if (await isSo()) return;
    await new Promise((resolve) => setTimeout(resolve, 2));
  }
  throw new Error('this did not come about');
}

/** Keeps a finding as it is. */
export const keep = (bench: Bench, reason: string, at = 0) => bench.keepFinding(bench.openFindings[at]!, reason);
export const keptIn = (bench: Bench) => bench.keptFindings.map((k) => k.reason).sort();
export const stored = (id = 'one') => server.journals.get(id)!;
