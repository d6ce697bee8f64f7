import { JournalEntry } from '@isola/core';
import { z } from 'zod';

const Unsent = z.object({ baseVersion: z.number().int().nonnegative(), entries: z.array(JournalEntry) });
/** Steps that the server has not acknowledged, and the version that they build on. */
export type Unsent = z.infer<typeof Unsent>;

const keyOf = (jobId: string): string => `isola.unsent.${jobId}`;

/** Steps of a job that were made here and not acknowledged before the page was closed; none where there are none or they do not read. */
export function readUnsent(jobId: string): Unsent | undefined {
  const text = localStorage.getItem(keyOf(jobId));
  if (text === null) return undefined;
  try {
    const read = Unsent.safeParse(JSON.parse(text));
    return read.success && read.data.entries.length > 0 ? read.data : undefined;
  } catch {
    return undefined;
  }
}

/** Keeps unsent steps beyond the life of the page; none clears them. Gives false where the browser has no room for them. */
export function writeUnsent(jobId: string, unsent: Unsent | undefined): boolean {
  try {
    if (unsent === undefined || unsent.entries.length === 0) localStorage.removeItem(keyOf(jobId));
    else localStorage.setItem(keyOf(jobId), JSON.stringify(unsent));
    return true;
  } catch {
    return false;
  }
}
