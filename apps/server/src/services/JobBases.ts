import type { RowEntry } from '@isola/core';
import type { JobBaseModel, Models } from '../db/models/index.ts';
import { NotFound } from '../errors.ts';
import { type DesignPool, PoolClosed } from '../workers/DesignPool.ts';
import type { Progress } from '../workers/protocol.ts';

/** What journals build on: made once for each job, beside the server, and kept. */
export class JobBases {
  private readonly models: Models;
  private readonly pool: DesignPool;
  /** Those that are being made. */
  private readonly making = new Map<string, { readonly done: Promise<JobBaseModel>; at: Progress }>();

  constructor(models: Models, pool: DesignPool) {
    this.models = models;
    this.pool = pool;
  }

  /** The base of a job; made now where it is not there, which takes a moment. */
  async get(jobId: string): Promise<JobBaseModel> {
    return (await this.models.JobBase.findByPk(jobId)) ?? this.make(jobId).done;
  }

  /** The base of a job where it is there, or how far it is. */
  async look(jobId: string): Promise<JobBaseModel | Progress> {
    const found = await this.models.JobBase.findByPk(jobId);
    if (found !== null) return found;
    // A file that is read in no time is waited for, so that nobody has to ask twice.
    const making = this.make(jobId);
    return Promise.race([making.done, new Promise<Progress>((resolve) => setTimeout(() => resolve(making.at), PATIENCE))]);
  }

  /** Begins to make a job's base; what goes wrong is said to who asks for it. */
  begin(jobId: string): void {
    this.make(jobId).done.catch((error: unknown) => {
      if (!(error instanceof PoolClosed) && !(error instanceof NotFound)) console.error(error);
    });
  }

  private make(jobId: string): { readonly done: Promise<JobBaseModel>; at: Progress } {
    const known = this.making.get(jobId);
    if (known !== undefined) return known;
    const making = {
      at: { share: 0, doing: 'waiting' },
      done: this.adopt(jobId, (at) => (making.at = at)).finally(() => this.making.delete(jobId)),
    };
    this.making.set(jobId, making);
    return making;
  }

  private async adopt(jobId: string, progress: (at: Progress) => void): Promise<JobBaseModel> {
    const [job, file, entries] = await Promise.all([
      this.models.Job.findByPk(jobId),
      this.models.JobFile.findByPk(jobId),
      this.models.JournalEntry.findAll({ where: { jobId }, order: ['seq'] }),
    ]);
    if (job === null || file === null) throw new NotFound('such job');
    const rows = entries.map(({ entry }) => entry as RowEntry);
    const { base, recognizer, version } = await this.pool.run(
      'adopt',
      { bytes: file.bytes, target: job.initialTarget, entries: rows },
      progress,
    );
    return this.models.sequelize.transaction(async (transaction) => {
      const still = await this.models.Job.findByPk(jobId, { transaction, lock: transaction.LOCK.UPDATE });
      if (still === null) throw new NotFound('such job');
      const other = await this.models.JobBase.findByPk(jobId, { transaction });
      return other ?? this.models.JobBase.create({ jobId, recognizer, version, base: Buffer.from(base) }, { transaction });
    });
  }
}

/** So long (ms) who looks for a base is let wait for it. */
const PATIENCE = 250;
