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

/** What a job is opened with, on its way. */
export interface JobOnItsWay {
  /** The engine has read the file. */
  readonly file: Promise<void>;
  readonly last: Promise<LoadedJob>;
}

/** The file of the job that is opened next, on its way; it never changes. */
let expected: { readonly id: string; readonly file: Promise<Uint8Array> } | undefined;

/** Asks for the file of a job already that is about to be opened. */
export function expectJob(id: string): void {
  expected = { id, file: api.file(id) };
  expected.file.catch(() => undefined);
}

function fileOf(id: string): Promise<Uint8Array> {
  const file = expected?.id === id ? expected.file : api.file(id);
  expected = undefined;
  return file;
}

/** Asks for all that a job is opened with. What goes wrong is told to who waits for it. */
export function askForJob(engine: Pick<EngineApi, 'read'>, id: string, hear: (at: Progress) => void): JobOnItsWay {
  const asked = { file: fileOf(id).then((bytes) => engine.read(bytes)), last: loadJob(id, hear) };
  for (const one of [asked.file, asked.last]) one.catch(() => undefined);
  return asked;
}

/** Opens a job in an engine, and under a number in the drawing worker, at its last snapshot, or from its base where steps from before that were taken back since. */
export async function openJob(
  engine: Pick<EngineApi, 'open'>,
  { file, last: loading }: JobOnItsWay,
  id: string,
  hear: (at: Progress) => void,
  number: number,
): Promise<{ readonly detail: JobDetail; readonly opened: Opened }> {
  const [last] = await Promise.all([loading, file]);
  const opened = await engine.open(last.base.json, entriesOf(last.detail), number);
  if (opened !== 'journal-needed') return { detail: last.detail, opened };
  const { detail, base } = await loadJob(id, hear, 'start');
  const again = await engine.open(base.json, entriesOf(detail), number);
  if (again === 'journal-needed') throw new Error('a base has no steps before it');
  return { detail, opened: again };
}

export const entriesOf = ({ journal }: JobDetail): JournalEntry[] => journal.map(({ entry }) => entry);
