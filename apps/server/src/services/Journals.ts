import type { JobChange, JobSummary } from '@isola/contract';
import type { JournalEntry } from '@isola/core';
import { Op } from 'sequelize';
import type { JobModel, Models } from '../db/models/index.ts';
import { ChangedElsewhere, DoesNotFit, TouchesTheSame } from '../errors.ts';
import type { Beside } from '../workers/protocol.ts';
import { chainOf, chainStart, derivedId } from './chain.ts';
import type { Histories } from './Histories.ts';
import type { JobBases } from './JobBases.ts';
import type { JobDesigns } from './JobDesigns.ts';
import { UNCOUNTED } from './Recounts.ts';
import { Turns } from './Turns.ts';
import { conflictAt, findJob, MAIN, summarizeJob } from './records.ts';

/** After so many entries a job is kept as it then is. */
const SNAPSHOT_EVERY = 64;

/** Who sends entries, and which of the job's since the version that they were made on are theirs; where that is said, they may go beside others'. */
interface Sender {
  readonly who?: string | undefined;
  readonly own?: readonly string[] | undefined;
}

/** What journals are kept with. */
interface Around {
  readonly bases: JobBases;
  readonly designs: JobDesigns;
  readonly tips: Pick<Histories, 'tipAt'>;
  readonly tell: (change: JobChange) => void;
  /** Has the findings of a job counted, which a step does not wait for. */
  readonly countSoon: (id: string) => void;
}

/** A job's entries as they are stored: added at their end, chained to those before, and never changed. */
export class Journals {
  private readonly models: Models;
  private readonly bases: JobBases;
  private readonly designs: JobDesigns;
  private readonly tips: Pick<Histories, 'tipAt'>;
  private readonly tell: Around['tell'];
  private readonly countSoon: Around['countSoon'];
  /** Steps of one job are worked out one after another: of those at once all but one would be worked out for nothing. */
  private readonly turns = new Turns();

  constructor(models: Models, { bases, designs, tips, tell, countSoon }: Around) {
    this.models = models;
    this.bases = bases;
    this.designs = designs;
    this.tips = tips;
    this.tell = tell;
    this.countSoon = countSoon;
  }

  /**
   * Appends entries to a job's journal if it is still at `baseVersion` or, where who sent them says which entries since then are their `own`, if what
   * others did since touches nothing that these touch. Entries that are there already (a request that was sent again because its answer was lost) are
   * known one by one and not appended twice; those after them build on them. What does not apply to the design is refused before anything is stored.
   */
  append(id: string, baseVersion: number, sent: readonly JournalEntry[], sender: Sender = {}): Promise<JobSummary> {
    return this.turns.take(id, () => this.appendNow(id, baseVersion, sent, sender));
  }

  private async appendNow(id: string, baseVersion: number, sent: readonly JournalEntry[], { who, own }: Sender): Promise<JobSummary> {
    for (;;) {
      const known = await this.knownOf(id, sent);
      const job = await findJob(this.models, id);
      const entries = sent.slice(known.length);
      if (entries.length === 0) return summarizeJob(job);
      if (own === undefined && job.version !== (known.at(-1)?.seq ?? baseVersion)) throw conflictAt(job.version, known.length);
      const others = own === undefined ? [] : await this.othersSince(job, baseVersion, [...own, ...known.map(({ entryId }) => entryId)]);
      const since = others.length === 0 ? undefined : await this.tips.tipAt(id, baseVersion);
      const beside = since === undefined ? undefined : { since, own: sent.map((entry) => entry.id).concat(own ?? []) };
      const stored = await this.store(id, job.version, entries, { who, beside }).catch((error: unknown) => {
        throw error instanceof TouchesTheSame ? sayOverlap(error, others, job.version, known.length) : error;
      });
      // Another server process was faster; it may have been this request, sent before.
      if (stored === undefined) continue;
      this.isStored(stored, job.version, entries, who);
      return stored;
    }
  }

  /**
   * Keeps entries that do not go on top of what others did as a branch that leaves the version that they were made on; the job stays as others left it.
   * Sent twice they are there once.
   */
  keepAside(id: string, baseVersion: number, entries: readonly JournalEntry[], sender: Sender = {}): Promise<JobSummary> {
    return this.turns.take(id, () => this.keepAsideNow(id, baseVersion, entries, sender));
  }

  private async keepAsideNow(id: string, baseVersion: number, entries: readonly JournalEntry[], sender: Sender): Promise<JobSummary> {
    const { who, own = [] } = sender;
    for (;;) {
      const known = await this.knownOf(id, entries);
      const job = await findJob(this.models, id);
      if (known.length === entries.length) return summarizeJob(job);
      if (known.length > 0) throw conflictAt(job.version, known.length);
      const from = own.at(-1) ?? (await this.tips.tipAt(id, baseVersion));
      const back = await this.tips.tipAt(id, job.version);
      const first = entries[0]!.id;
      const all: JournalEntry[] = [
        { id: derivedId(first, 'leave'), kind: 'go', to: from },
        ...entries,
        { id: derivedId(first, 'return'), kind: 'go', to: back },
      ];
      const stored = await this.store(id, job.version, all, { who });
      if (stored === undefined) continue;
      this.isStored(stored, job.version, all, who);
      return stored;
    }
  }

  private isStored({ id, version }: JobSummary, before: number, entries: readonly JournalEntry[], who: string | undefined): void {
    this.tell({ id, version, who: who ?? null });
    this.countSoon(id);
    const isDue = Math.floor(version / SNAPSHOT_EVERY) > Math.floor(before / SNAPSHOT_EVERY);
    if (isDue) this.bases.keepSnapshot({ jobId: id, version, lastEntryId: entries.at(-1)!.id });
  }

  /** Who made entries since a version, but for certain entries; null where that is not known. */
  private async othersSince(job: JobModel, version: number, own: readonly string[]): Promise<readonly { readonly who: string | null }[]> {
    if (job.version === version) return [];
    if (version > job.version) throw conflictAt(job.version);
    const between = await this.models.JournalEntry.findAll({
      where: { jobId: job.id, seq: { [Op.gt]: version, [Op.lte]: job.version } },
      attributes: ['entryId', 'who'],
    });
    const mine = new Set(own);
    return between.filter(({ entryId }) => !mine.has(entryId)).map(({ who }) => ({ who: who ?? null }));
  }

  /** Those of a job's stored entries that entries begin with. */
  private async knownOf(
    jobId: string,
    sent: readonly JournalEntry[],
  ): Promise<readonly { readonly entryId: string; readonly seq: number }[]> {
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
  private async store(
    id: string,
    version: number,
    entries: readonly JournalEntry[],
    { who, beside }: { who: string | undefined; beside?: Beside | undefined },
  ): Promise<JobSummary | undefined> {
    const state = await this.designs.stateAt(id, version);
    const [derived, before] = await Promise.all([this.designs.derive(state, entries, beside), this.chainAt(id, version)]);
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
          rulebook: UNCOUNTED,
          programHash: derived.programHashes.at(-1)!,
          target: derived.target,
          now: derived.figures,
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

/** A conflict in words: who changed what that the steps change, too. */
function sayOverlap(
  { overlap }: TouchesTheSame,
  others: readonly { readonly who: string | null }[],
  version: number,
  known: number,
): ChangedElsewhere {
  const names = [...new Set(others.map(({ who }) => who ?? 'another window'))];
  const whose = names.length === 1 ? names[0]! : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
  const [first, second, ...rest] = overlap;
  if (first === undefined) return new ChangedElsewhere(`${nameOf(whose)} changed what these steps build on.`, version, known);
  const what = [first, second].filter(Boolean).join(', ');
  const more = rest.length > 0 ? ` and ${rest.length} more` : '';
  const text = `${nameOf(whose)} changed ${what}${more}, which was changed here, too.`;
  return new ChangedElsewhere(text, version, known);
}

const nameOf = (whose: string): string => `${whose[0]!.toUpperCase()}${whose.slice(1)}`;
