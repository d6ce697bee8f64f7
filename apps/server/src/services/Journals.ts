import type { JobChange, JobSummary } from '@isola/contract';
import { type JournalEntry, RULEBOOK_VERSION } from '@isola/core';
import type { Models } from '../db/models/index.ts';
import { DoesNotFit } from '../errors.ts';
import { chainOf, chainStart } from './chain.ts';
import type { JobBases } from './JobBases.ts';
import type { JobDesigns } from './JobDesigns.ts';
import { conflictAt, findJob, MAIN, summarizeJob } from './records.ts';

/** After so many entries a job is kept as it then is. */
const SNAPSHOT_EVERY = 64;

/** A job's entries as they are stored: added at their end, chained to those before, and never changed. */
export class Journals {
  private readonly models: Models;
  private readonly bases: JobBases;
  private readonly designs: JobDesigns;
  private readonly tell: (change: JobChange) => void;

  constructor(models: Models, bases: JobBases, designs: JobDesigns, tell: (change: JobChange) => void) {
    this.models = models;
    this.bases = bases;
    this.designs = designs;
    this.tell = tell;
  }

  /**
   * Appends entries to a job's journal if it is still at `baseVersion`. Entries that are there already (a request that was sent again because its
   * answer was lost) are known one by one and not appended twice; those after them build on them. What does not apply to the design is refused
   * before anything is stored.
   */
  async append(id: string, baseVersion: number, sent: readonly JournalEntry[], who?: string): Promise<JobSummary> {
    for (;;) {
      const known = await this.knownOf(id, sent);
      const job = await findJob(this.models, id);
      const entries = sent.slice(known.length);
      if (entries.length === 0) return summarizeJob(job);
      const version = known.at(-1)?.seq ?? baseVersion;
      if (job.version !== version) throw conflictAt(job.version, known.length);
      const stored = await this.store(id, version, entries, who);
      // Another request was faster; it may have been this one, sent before.
      if (stored === undefined) continue;
      this.tell({ id, version: stored.version });
      const isDue = Math.floor(stored.version / SNAPSHOT_EVERY) > Math.floor(version / SNAPSHOT_EVERY);
      if (isDue) this.bases.keepSnapshot({ jobId: id, version: stored.version, lastEntryId: entries.at(-1)!.id });
      return stored;
    }
  }

  /** Those of a job's stored entries that entries begin with. */
  private async knownOf(jobId: string, sent: readonly JournalEntry[]): Promise<readonly { readonly seq: number }[]> {
    const ids = sent.map((entry) => entry.id);
    if (new Set(ids).size < ids.length) throw new DoesNotFit('Two entries have the same id.');
    const known = await this.models.JournalEntry.findAll({
      where: { entryId: ids },
      order: ['seq'],
      attributes: ['jobId', 'entryId', 'seq'],
    });
    const other = known.find((entry) => entry.jobId !== jobId);
    if (other !== undefined) throw new DoesNotFit(`The entry ${other.entryId} is one of another job.`);
    const isBeginning = known.every(({ entryId, seq }, k) => entryId === ids[k] && seq === known[0]!.seq + k);
    if (!isBeginning) throw new DoesNotFit('Some of these entries are stored already, in another order.');
    return known;
  }

  /** Stores entries on top of a version; gives nothing where the job is not at that any more. */
  private async store(id: string, version: number, entries: readonly JournalEntry[], who?: string): Promise<JobSummary | undefined> {
    const state = await this.designs.stateAt(id, version);
    const [derived, before] = await Promise.all([this.designs.derive(state, entries), this.chainAt(id, version)]);
    let chain = before;
    const rows = entries.map((entry, k) => ({
      ...{ jobId: id, seq: version + k + 1, entryId: entry.id, entry },
      parent: k === 0 ? state.lastEntryId : entries[k - 1]!.id,
      chain: (chain = chainOf(chain, entry)),
      programHash: derived.programHashes[k]!,
      who: who ?? null,
    }));
    return this.models.sequelize.transaction(async (transaction) => {
      const current = await findJob(this.models, id, transaction);
      if (current.version !== version) return undefined;
      await this.models.JournalEntry.bulkCreate(rows, { transaction });
      await this.models.Branch.update({ entryId: rows.at(-1)!.entryId }, { where: { jobId: id, name: MAIN }, transaction });
      await current.update(
        {
          version: version + entries.length,
          rulebook: RULEBOOK_VERSION,
          programHash: derived.programHashes.at(-1)!,
          target: derived.target,
          now: derived.figures,
          findings: derived.findings,
          // What was released stays so, whatever is done since; work of which all was taken back is none.
          stage: current.stage === 'released' ? 'released' : derived.stepCount > 0 ? 'in-work' : 'taken-in',
        },
        { transaction },
      );
      return summarizeJob(current);
    });
  }

  private async chainAt(jobId: string, version: number): Promise<string> {
    if (version === 0) return chainStart((await this.models.JobFile.findByPk(jobId, { attributes: ['sha256'] }))?.sha256 ?? '');
    const last = await this.models.JournalEntry.findOne({ where: { jobId, seq: version }, attributes: ['chain'] });
    return last?.chain ?? '';
  }
}
