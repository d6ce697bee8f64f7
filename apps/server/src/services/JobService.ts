import { randomUUID } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import type { JobChange, JobDetail, JobSummary, RevisionSummary } from '@isola/contract';
import { type FormatId, type JournalEntry, RULEBOOK_VERSION, type Target } from '@isola/core';
import { Op, type Transaction } from 'sequelize';
import type { JobModel, Models, RevisionModel } from '../db/models/index.ts';
import { ChangedElsewhere, DoesNotFit, NotFound, NotReady, UnreadableFile } from '../errors.ts';
import type { DesignPool } from '../workers/DesignPool.ts';
import type { Progress, ReadAnswer } from '../workers/protocol.ts';
import { JobBases, type ReplayStart } from './JobBases.ts';
import { JobDesigns } from './JobDesigns.ts';

export interface NewJob {
  readonly fileName: string;
  readonly bytes: Buffer;
  readonly target: Target;
  readonly name: string;
  readonly customer?: string;
  readonly due?: string | null;
  /** By which the same request is known when it is sent again. */
  readonly key?: string | undefined;
}

/** A file that was read, before anything of it is stored. */
export interface ReadJob {
  readonly job: NewJob;
  readonly read: ReadAnswer;
}

/** The branch that work goes on. */
const MAIN = 'main';
/** After so many entries a job is kept as it then is. */
const SNAPSHOT_EVERY = 64;

/** Jobs and all that belongs to them. Every write is one transaction: it is there as a whole once it is acknowledged, or not at all. */
export class JobService {
  private readonly models: Models;
  private readonly pool: DesignPool;
  private readonly bases: JobBases;
  private readonly designs: JobDesigns;
  private readonly listeners = new Set<(change: JobChange) => void>();

  constructor(models: Models, pool: DesignPool) {
    this.models = models;
    this.pool = pool;
    this.bases = new JobBases(models, pool);
    this.designs = new JobDesigns(models, pool, this.bases);
  }

  /** Hears what is changed from now on, until what is given back is called. */
  listen(hear: (change: JobChange) => void): () => void {
    this.listeners.add(hear);
    return () => this.listeners.delete(hear);
  }

  private tell(change: JobChange): void {
    for (const hear of this.listeners) hear(change);
  }

  async list(): Promise<JobSummary[]> {
    const jobs = await this.models.Job.findAll({
      order: [
        ['due', 'ASC NULLS LAST'],
        ['createdAt', 'ASC'],
      ],
    });
    return jobs.map(summarize);
  }

  /** Takes a file in. Its objects are recognized after that. A request that was sent before gives the job that was made then. */
  async create(job: NewJob): Promise<JobSummary> {
    const known = job.key === undefined ? null : await this.models.Job.findOne({ where: { requestKey: job.key } });
    if (known !== null) return summarize(known);
    const ready = await this.read(job);
    const summary = await this.models.sequelize.transaction((transaction) => this.insert(ready, transaction));
    this.begin(summary.id, job.bytes);
    return summary;
  }

  /** Reads a file in a worker, so that nothing of a file that is refused is stored. */
  async read(job: NewJob): Promise<ReadJob> {
    const read = await this.pool.run('read', { bytes: job.bytes, target: job.target });
    if ('refused' in read) throw new UnreadableFile(job.fileName, read.refused);
    return { job, read };
  }

  /** Stores a file that was read, as a job. */
  async insert({ job, read }: ReadJob, transaction: Transaction): Promise<JobSummary> {
    const id = randomUUID();
    const created = await this.models.Job.create(
      {
        id,
        name: job.name,
        customer: job.customer ?? '',
        due: job.due ?? null,
        fileName: job.fileName,
        fileKind: read.kind,
        warnings: read.warnings,
        initialTarget: job.target,
        target: job.target,
        before: read.figures,
        now: read.figures,
        findings: read.findings,
        stage: 'taken-in',
        version: 0,
        detailsVersion: 0,
        rulebook: RULEBOOK_VERSION,
        requestKey: job.key ?? null,
      },
      { transaction },
    );
    // What was just sent is not to come back with the answer: a file takes three times its size on its way.
    await this.models.JobFile.create({ jobId: id, sha256: read.sha256, bytes: job.bytes }, { transaction, returning: false });
    await this.models.Branch.create({ jobId: id, name: MAIN, entryId: null }, { transaction });
    await this.models.Revision.create(
      { jobId: id, number: 1, version: 0, name: 'As it came in', note: '', figures: read.figures, program: Buffer.from(read.program) },
      { transaction, returning: false },
    );
    return summarize(created);
  }

  /** Has the objects of a job that was stored recognized, and tells of it. */
  begin(id: string, bytes: Buffer): void {
    this.bases.begin(id, bytes);
    this.tell({ id, version: 0 });
  }

  /** A job with its journal since its last snapshot, or since its base. */
  async get(id: string, isSnapshotWanted = true): Promise<JobDetail> {
    const job = await this.find(id);
    const base = await this.models.JobBase.findByPk(id, { attributes: ['version', 'recognizer'] });
    const snapshot = isSnapshotWanted ? await this.models.Snapshot.findByPk(id, { attributes: ['version'] }) : null;
    const from = snapshot?.version ?? base?.version ?? 0;
    const [entries, revisions] = await Promise.all([
      base === null ? [] : this.models.JournalEntry.findAll({ where: { jobId: id, seq: { [Op.gt]: from } }, order: ['seq'] }),
      this.models.Revision.findAll({ where: { jobId: id }, order: ['number'], attributes: { exclude: ['program'] } }),
    ]);
    return {
      ...summarize(job),
      initialTarget: job.initialTarget,
      base: base === null ? null : { version: from, recognizer: base.recognizer },
      journal: entries.map((e) => ({ seq: e.seq, at: e.createdAt.toISOString(), entry: e.entry as JournalEntry })),
      revisions: revisions.map(summarizeRevision),
    };
  }

  /** What a job's journal builds on, as gzipped JSON with its version; or how far it is while it is made. */
  async base(id: string, isSnapshotWanted = true): Promise<ReplayStart | Progress> {
    await this.find(id);
    return this.bases.look(id, isSnapshotWanted);
  }

  async changeDetails(
    id: string,
    detailsVersion: number,
    details: { name: string; customer: string; due: string | null },
  ): Promise<JobSummary> {
    return this.models.sequelize.transaction(async (transaction) => {
      const job = await this.find(id, transaction);
      if (job.detailsVersion !== detailsVersion) {
        throw new ChangedElsewhere('Name, customer or date of this job were changed in another window. Reload to see them.');
      }
      await job.update({ ...details, detailsVersion: detailsVersion + 1 }, { transaction });
      return summarize(job);
    });
  }

  async remove(id: string): Promise<void> {
    if ((await this.models.Job.destroy({ where: { id } })) === 0) throw new NotFound('such job');
    this.tell({ id, version: null });
  }

  /** The file as it came in, byte for byte. */
  async file(id: string): Promise<{ fileName: string; kind: FormatId; bytes: Buffer }> {
    const [job, file] = await Promise.all([this.find(id), this.models.JobFile.findByPk(id)]);
    if (file === null) throw new NotFound('such job');
    return { fileName: job.fileName, kind: job.fileKind, bytes: file.bytes };
  }

  /**
   * Appends entries to a job's journal if it is still at `baseVersion`. Entries that are there already (a request that was sent again because its
   * answer was lost) are known one by one and not appended twice; those after them build on them. What does not apply to the design is refused
   * before anything is stored.
   */
  async append(id: string, baseVersion: number, sent: readonly JournalEntry[]): Promise<JobSummary> {
    for (;;) {
      const known = await this.knownOf(id, sent);
      const job = await this.find(id);
      const entries = sent.slice(known.length);
      if (entries.length === 0) return summarize(job);
      const version = known.at(-1)?.seq ?? baseVersion;
      if (job.version !== version) throw this.conflict(job.version, known.length);
      const stored = await this.store(id, version, entries);
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
  private async store(id: string, version: number, entries: readonly JournalEntry[]): Promise<JobSummary | undefined> {
    const state = await this.designs.stateAt(id, version);
    const derived = await this.designs.derive(state, entries);
    return this.models.sequelize.transaction(async (transaction) => {
      const current = await this.find(id, transaction);
      if (current.version !== version) return undefined;
      await this.models.JournalEntry.bulkCreate(
        entries.map((entry, k) => ({
          ...{ jobId: id, seq: version + k + 1, entryId: entry.id, entry },
          parent: k === 0 ? state.lastEntryId : entries[k - 1]!.id,
        })),
        { transaction },
      );
      const entryId = entries[entries.length - 1]!.id;
      await this.models.Branch.update({ entryId }, { where: { jobId: id, name: MAIN }, transaction });
      await current.update(
        {
          version: version + entries.length,
          rulebook: RULEBOOK_VERSION,
          target: derived.target,
          now: derived.figures,
          findings: derived.findings,
          stage: current.stage === 'taken-in' ? 'in-work' : current.stage,
        },
        { transaction },
      );
      return summarize(current);
    });
  }

  /** Keeps the present design as a revision that nothing overwrites. `isRelease` refuses while findings of severity stop are open. */
  async keepRevision(
    id: string,
    baseVersion: number,
    revision: { name: string; note: string; isRelease: boolean; key?: string | undefined },
  ): Promise<RevisionSummary> {
    const known =
      revision.key === undefined ? null : await this.models.Revision.findOne({ where: { jobId: id, requestKey: revision.key } });
    if (known !== null) return summarizeRevision(known);
    const job = await this.find(id);
    if (job.version !== baseVersion) throw this.conflict(job.version);
    const state = await this.designs.stateAt(id, baseVersion);
    const derived = await this.designs.derive(state, []);
    if (revision.isRelease && derived.openStops.length > 0) {
      throw new NotReady(`Repair these first, or keep them with a reason: ${derived.openStops.join('; ')}.`);
    }
    if (revision.isRelease && derived.figures.stitches === 0) throw new NotReady('There is no stitch in it.');
    const { content } = await this.designs.run('write', { ...state, format: 'csv.gz' as const });
    return this.models.sequelize.transaction(async (transaction) => {
      const current = await this.find(id, transaction);
      if (current.version !== baseVersion) throw this.conflict(current.version);
      const number = (await this.models.Revision.count({ where: { jobId: id }, transaction })) + 1;
      const created = await this.models.Revision.create(
        {
          jobId: id,
          number,
          version: baseVersion,
          entryId: state.lastEntryId,
          name: revision.name,
          note: revision.note,
          figures: derived.figures,
          program: Buffer.from(content),
          requestKey: revision.key ?? null,
        },
        { transaction },
      );
      if (revision.isRelease) await current.update({ stage: 'released' }, { transaction });
      return summarizeRevision(created);
    });
  }

  /** A revision's program as stitch CSV. */
  async revisionProgram(id: string, number: number): Promise<Buffer> {
    const revision = await this.models.Revision.findOne({ where: { jobId: id, number } });
    if (revision === null) throw new NotFound('such revision');
    return gunzipSync(revision.program);
  }

  /** The present design as a file. */
  async export(id: string, format: FormatId): Promise<{ fileName: string; content: Uint8Array }> {
    const job = await this.find(id);
    const { content } = await this.designs.run('write', { ...(await this.designs.stateAt(id, job.version)), format });
    return { fileName: `${job.fileName.replace(/\.[^.]*$/, '')}-v${job.version}.${format}`, content };
  }

  /** What the present design is made of. */
  async objects(id: string): Promise<readonly object[]> {
    const job = await this.find(id);
    return (await this.designs.run('objects', await this.designs.stateAt(id, job.version))).objects;
  }

  private async find(id: string, transaction?: Transaction): Promise<JobModel> {
    const job = await this.models.Job.findByPk(id, transaction === undefined ? {} : { transaction, lock: transaction.LOCK.UPDATE });
    if (job === null) throw new NotFound('such job');
    return job;
  }

  private conflict(version: number, known = 0): ChangedElsewhere {
    return new ChangedElsewhere('This job was changed in another window since it was opened here.', version, known);
  }
}

function summarize(job: JobModel): JobSummary {
  const { id, name, customer, due, fileName, fileKind, warnings, target, before, now, findings, stage, version, detailsVersion } = job;
  return {
    ...{ id, name, customer, due, fileName, fileKind, warnings, target, before, now, findings, stage, version, detailsVersion },
    createdAt: job.createdAt.toISOString(),
    updatedAt: job.updatedAt.toISOString(),
  };
}

function summarizeRevision(revision: RevisionModel): RevisionSummary {
  const { number, version, name, note, figures } = revision;
  return { number, version, name, note, figures, createdAt: revision.createdAt.toISOString() };
}
