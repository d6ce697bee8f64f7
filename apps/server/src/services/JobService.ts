import { createHash, randomUUID } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import type { JobDetail, JobSummary, RevisionSummary } from '@isola/contract';
import type { JournalEntry, FormatId, Target } from '@isola/core';
import type { Transaction } from 'sequelize';
import type { JobModel, Models, RevisionModel } from '../db/models/index.ts';
import { notFound, Problem, unreadableFile } from '../problem.ts';
import type { DesignPool } from '../workers/DesignPool.ts';
import type { DeriveAnswer, JobState } from '../workers/protocol.ts';

export interface NewJob {
  readonly fileName: string;
  readonly bytes: Buffer;
  readonly target: Target;
  readonly name: string;
  readonly customer?: string;
  readonly due?: string | null;
}

/** Jobs and all that belongs to them. Every write is one transaction: it is there as a whole once it is acknowledged, or not at all. */
export class JobService {
  private readonly models: Models;
  private readonly pool: DesignPool;

  constructor(models: Models, pool: DesignPool) {
    this.models = models;
    this.pool = pool;
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

  /** Takes a file in: reads it in a worker first, so that nothing of a file that is refused is stored. */
  async create(job: NewJob): Promise<JobSummary> {
    const read = await this.pool.run('read', { bytes: job.bytes, target: job.target });
    if ('refused' in read) throw unreadableFile(job.fileName, read.refused);
    const id = randomUUID();
    return this.models.sequelize.transaction(async (transaction) => {
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
        },
        { transaction },
      );
      const sha256 = createHash('sha256').update(job.bytes).digest('hex');
      await this.models.JobFile.create({ jobId: id, sha256, bytes: job.bytes }, { transaction });
      await this.models.Revision.create(
        { jobId: id, number: 1, version: 0, name: 'As it came in', note: '', figures: read.figures, program: Buffer.from(read.program) },
        { transaction },
      );
      return summarize(created);
    });
  }

  async get(id: string): Promise<JobDetail> {
    const job = await this.find(id);
    const [entries, revisions] = await Promise.all([
      this.models.JournalEntry.findAll({ where: { jobId: id }, order: ['seq'] }),
      this.models.Revision.findAll({ where: { jobId: id }, order: ['number'], attributes: { exclude: ['program'] } }),
    ]);
    return {
      ...summarize(job),
      initialTarget: job.initialTarget,
      journal: entries.map((e) => ({ seq: e.seq, at: e.createdAt.toISOString(), entry: e.entry })),
      revisions: revisions.map(summarizeRevision),
    };
  }

  async changeDetails(
    id: string,
    detailsVersion: number,
    details: { name: string; customer: string; due: string | null },
  ): Promise<JobSummary> {
    return this.models.sequelize.transaction(async (transaction) => {
      const job = await this.find(id, transaction);
      if (job.detailsVersion !== detailsVersion) {
        throw new Problem(
          409,
          'Changed elsewhere',
          'Name, customer or date of this job were changed in another window. Reload to see them.',
        );
      }
      await job.update({ ...details, detailsVersion: detailsVersion + 1 }, { transaction });
      return summarize(job);
    });
  }

  async remove(id: string): Promise<void> {
    if ((await this.models.Job.destroy({ where: { id } })) === 0) throw notFound('such job');
  }

  /** The file as it came in, byte for byte. */
  async file(id: string): Promise<{ fileName: string; kind: FormatId; bytes: Buffer }> {
    const [job, file] = await Promise.all([this.find(id), this.models.JobFile.findByPk(id)]);
    if (file === null) throw notFound('such job');
    return { fileName: job.fileName, kind: job.fileKind, bytes: file.bytes };
  }

  /**
   * Appends entries to a job's journal if it is still at `baseVersion`. Entries that are there already (a request that was sent twice
   * because its answer was lost) are acknowledged again. What does not apply to the design is refused before anything is stored.
   */
  async append(id: string, baseVersion: number, entries: readonly JournalEntry[]): Promise<JobSummary> {
    const state = await this.stateAt(id, baseVersion);
    const sent = await this.models.JournalEntry.findAll({ where: { jobId: id, entryId: entries.map((e) => e.id) } });
    if (sent.length === entries.length && sent.length > 0) return summarize(await this.find(id));
    const job = await this.find(id);
    if (job.version !== baseVersion) throw this.conflict(job.version);
    const derived = await this.derive({ ...state, entries: [...state.entries, ...entries] });
    return this.models.sequelize.transaction(async (transaction) => {
      const current = await this.find(id, transaction);
      if (current.version !== baseVersion) throw this.conflict(current.version);
      await this.models.JournalEntry.bulkCreate(
        entries.map((entry, k) => ({ jobId: id, seq: baseVersion + k + 1, entryId: entry.id, entry })),
        { transaction },
      );
      await current.update(
        {
          version: baseVersion + entries.length,
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
    revision: { name: string; note: string; isRelease: boolean },
  ): Promise<RevisionSummary> {
    const job = await this.find(id);
    if (job.version !== baseVersion) throw this.conflict(job.version);
    const state = await this.stateAt(id, baseVersion);
    const derived = await this.derive(state);
    if (revision.isRelease && derived.openStops.length > 0) {
      throw new Problem(422, 'Not ready to release', `Repair these first, or keep them with a reason: ${derived.openStops.join('; ')}.`);
    }
    const { content } = await this.write(state, 'csv.gz');
    return this.models.sequelize.transaction(async (transaction) => {
      const current = await this.find(id, transaction);
      if (current.version !== baseVersion) throw this.conflict(current.version);
      const number = (await this.models.Revision.count({ where: { jobId: id }, transaction })) + 1;
      const created = await this.models.Revision.create(
        {
          jobId: id,
          number,
          version: baseVersion,
          name: revision.name,
          note: revision.note,
          figures: derived.figures,
          program: Buffer.from(content),
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
    if (revision === null) throw notFound('such revision');
    return gunzipSync(revision.program);
  }

  /** The present design as a file. */
  async export(id: string, format: FormatId): Promise<{ fileName: string; content: Uint8Array }> {
    const job = await this.find(id);
    const { content } = await this.write(await this.stateAt(id, job.version), format);
    return { fileName: `${job.fileName.replace(/\.[^.]*$/, '')}-v${job.version}.${format}`, content };
  }

  /** What the present design is made of. */
  async objects(id: string): Promise<readonly object[]> {
    const job = await this.find(id);
    const state = await this.stateAt(id, job.version);
    let answer = await this.pool.run('recognize', state);
    if (answer === 'bytes-needed') answer = await this.pool.run('recognize', await this.withBytes(state));
    if (answer === 'bytes-needed') throw new Error('a worker asked twice for the same bytes');
    return answer.objects;
  }

  private async find(id: string, transaction?: Transaction): Promise<JobModel> {
    const job = await this.models.Job.findByPk(id, transaction === undefined ? {} : { transaction, lock: transaction.LOCK.UPDATE });
    if (job === null) throw notFound('such job');
    return job;
  }

  private async stateAt(id: string, version: number): Promise<JobState> {
    const job = await this.find(id);
    const entries = await this.models.JournalEntry.findAll({ where: { jobId: id }, order: ['seq'], limit: version });
    return { jobId: id, initialTarget: job.initialTarget, entries: entries.map((e) => e.entry) };
  }

  private async derive(state: JobState): Promise<DeriveAnswer> {
    let answer = await this.pool.run('derive', state);
    if (answer === 'bytes-needed') answer = await this.pool.run('derive', await this.withBytes(state));
    if (answer === 'bytes-needed') throw new Error('a worker asked twice for the same bytes');
    if ('refused' in answer) {
      throw new Problem(422, 'This step does not fit the job', `${answer.refused}. Reload the job and make the step again.`);
    }
    return answer;
  }

  private async write(state: JobState, format: FormatId | 'csv.gz'): Promise<{ content: Uint8Array }> {
    let answer = await this.pool.run('write', { ...state, format });
    if (answer === 'bytes-needed') answer = await this.pool.run('write', { ...(await this.withBytes(state)), format });
    if (answer === 'bytes-needed') throw new Error('a worker asked twice for the same bytes');
    return answer;
  }

  private async withBytes(state: JobState): Promise<JobState> {
    return { ...state, bytes: (await this.file(state.jobId)).bytes };
  }

  private conflict(version: number): Problem {
    return new Problem(409, 'Changed elsewhere', 'This job was changed in another window since it was opened here.', { version });
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
