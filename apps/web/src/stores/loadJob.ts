import type { JobDetail } from '@isola/contract';
import type { JournalEntry } from '@isola/core';
import type { EngineApi, Opened } from '../workers/protocol.ts';
import { api, type JobBaseText, type Progress } from '../api/client.ts';

/** A job with what its journal is replayed from. */
export interface LoadedJob {
  readonly detail: JobDetail;
  readonly base: JobBaseText;
}

/**
 * Asks for both at once. Where the base was not made yet or a snapshot was kept between the two answers they do not fit together, and are
 * asked for again.
 */
export async function loadJob(id: string, hear: (at: Progress) => void, from: 'snapshot' | 'start' = 'snapshot'): Promise<LoadedJob> {
  for (;;) {
    const [base, detail] = await Promise.all([api.base(id, from, hear), api.job(id, from)]);
    if (detail.base?.version === base.version) return { detail, base };
  }
}

/** Opens a job in an engine, and under a number in the drawing worker, at its last snapshot, or from its base where steps from before that were taken back since. */
export async function openJob(
  engine: Pick<EngineApi, 'open'>,
  id: string,
  hear: (at: Progress) => void,
  number: number,
): Promise<{ readonly detail: JobDetail; readonly opened: Opened }> {
  const [bytes, last] = await Promise.all([api.file(id), loadJob(id, hear)]);
  const opened = await engine.open(bytes, last.base.json, entriesOf(last.detail), number);
  if (opened !== 'journal-needed') return { detail: last.detail, opened };
  const { detail, base } = await loadJob(id, hear, 'start');
  const again = await engine.open(bytes, base.json, entriesOf(detail), number);
  if (again === 'journal-needed') throw new Error('a base has no steps before it');
  return { detail, opened: again };
}

export const entriesOf = ({ journal }: JobDetail): JournalEntry[] => journal.map(({ entry }) => entry);
