import { JournalEntry } from '@isola/core';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { z } from 'zod';

/** A step that the server has not acknowledged. One record each, so that windows beside each other overwrite nothing. */
export interface UnsentStep {
  /** Counts up as steps are kept. */
  readonly order: number;
  readonly jobId: string;
  readonly jobName: string;
  /** The window that made it, which is the one that sends it. */
  readonly tab: string;
  /** The version of the job that it goes on top of. */
  readonly version: number;
  readonly entry: JournalEntry;
}

interface Schema extends DBSchema {
  steps: { key: number; value: Omit<UnsentStep, 'order'> & { order?: number }; indexes: { job: string } };
}

const Stored = z.object({
  order: z.number(),
  jobId: z.string(),
  jobName: z.string(),
  tab: z.string(),
  version: z.number().int().nonnegative(),
  entry: JournalEntry,
});

let database: Promise<IDBPDatabase<Schema>> | undefined;

function open(): Promise<IDBPDatabase<Schema>> {
  database ??= openDB<Schema>('isola', 1, {
    upgrade(db) {
      db.createObjectStore('steps', { keyPath: 'order', autoIncrement: true }).createIndex('job', 'jobId');
    },
    // Another window brings a newer schema, or the browser ended it: it is opened again when it is next needed.
    blocking(_, __, event) {
      (event.target as IDBDatabase).close();
      database = undefined;
    },
    terminated: () => (database = undefined),
  });
  database.catch(() => (database = undefined));
  return database;
}

/** Keeps steps beyond the life of the page, all or none, and gives their places. @throws where the browser has no room, or keeps nothing. */
export async function keepSteps(steps: readonly Omit<UnsentStep, 'order'>[]): Promise<number[]> {
  const transaction = (await open()).transaction('steps', 'readwrite');
  const orders = await Promise.all(steps.map((step) => transaction.store.add(structuredClone(step))));
  await transaction.done;
  return orders;
}

export async function dropSteps(orders: readonly number[]): Promise<void> {
  const transaction = (await open()).transaction('steps', 'readwrite');
  await Promise.all([...orders.map((order) => transaction.store.delete(order)), transaction.done]);
}

/** All that is kept, in the order in which it was made. What does not read is left where it is. */
export async function readSteps(): Promise<UnsentStep[]> {
  const all = await (await open()).getAll('steps');
  return all.flatMap((step) => Stored.safeParse(step).data ?? []);
}

/** Makes steps those of another window. */
export async function takeOver(steps: readonly UnsentStep[], tab: string): Promise<void> {
  const transaction = (await open()).transaction('steps', 'readwrite');
  await Promise.all([...steps.map((step) => transaction.store.put({ ...structuredClone(step), tab })), transaction.done]);
}

const LEGACY = 'isola.unsent.';
const Legacy = z.object({ baseVersion: z.number().int().nonnegative(), entries: z.array(JournalEntry) });

/** Takes over steps that earlier versions of this page left in the local storage. */
export async function takeLegacy(tab: string): Promise<void> {
  const keys = Array.from({ length: localStorage.length }, (_, k) => localStorage.key(k)!).filter((key) => key.startsWith(LEGACY));
  for (const key of keys) {
    const left = Legacy.safeParse(parse(localStorage.getItem(key)!)).data;
    const jobId = key.slice(LEGACY.length);
    if (left !== undefined)
      await keepSteps(left.entries.map((entry, k) => ({ jobId, jobName: '', tab, version: left.baseVersion + k, entry })));
    localStorage.removeItem(key);
  }
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
