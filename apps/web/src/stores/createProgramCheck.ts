import type { JobSummary } from '@isola/contract';
import type { Remote } from 'comlink';
import type { EngineApi } from '../workers/protocol.ts';
import { useNotices } from './notices.ts';

/** Whether the page and the server get the same program from the same steps: what is seen has to be what is sewn. */
export function createProgramCheck(engine: () => Remote<EngineApi> | undefined, open: (id: string) => Promise<void>) {
  /** What was worked out here, by the entry that led to it. */
  const mine = new Map<string, Promise<string>>();

  /** Notes what the engine has now: the outcome of an entry. */
  function note(entryId: string): void {
    const hash = engine()?.hash();
    if (hash === undefined) return;
    mine.set(entryId, hash);
    // Who is waited for in vain (the engine was stopped meanwhile) is not asked again.
    hash.catch(() => mine.delete(entryId));
  }

  /** Compares what the server got from an entry; where that is another program, the job is shown as the server has it. */
  async function compare({ id, programHash }: JobSummary, entryId: string): Promise<void> {
    const hash = mine.get(entryId);
    mine.delete(entryId);
    if (hash === undefined || programHash === null || (await hash) === programHash) return;
    useNotices().warn('Shown anew', 'The server worked this step out otherwise than this page. What is shown now is what the server has.');
    await open(id);
  }

  /** Says so where a job's steps lead to another program now than when they were stored. */
  async function compareStored({ programHash }: JobSummary): Promise<void> {
    if (programHash === null || (await engine()?.hash()) === programHash) return;
    useNotices().warn(
      'Other stitches than before',
      'These steps lead to other stitches than when they were made: Isola was changed since. Compare with a kept revision before you release.',
    );
  }

  return { note, compare, compareStored };
}
