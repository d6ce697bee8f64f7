import type { RowEntry } from '@isola/core';
import type { JobBaseModel, Models } from '../db/models/index.ts';
import { NotFound } from '../errors.ts';
import { log } from '../log.ts';
import type { DesignPool } from '../workers/DesignPool.ts';
import { Busy, PoolClosed, TookTooLong, TookTooMuch, WorkerDied } from '../workers/poolErrors.ts';
import type { JobState, Progress } from '../workers/protocol.ts';
import { bytesOf } from './records.ts';

/** A base or a snapshot of a job, gzipped, and how many entries of the journal are in it. */
export interface ReplayStart {
  readonly version: number;
  readonly json: Buffer;
}

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

  /** The version and the JSON, gzipped, that a job's journal is replayed from: of its last snapshot, where it has one and that is wanted. */
  async start(jobId: string, isSnapshotWanted = true): Promise<ReplayStart> {
    const snapshot = isSnapshotWanted ? await this.models.Snapshot.findByPk(jobId) : null;
    if (snapshot !== null) return { version: snapshot.version, json: snapshot.snapshot };
    const { version, base } = await this.get(jobId);
    return { version, json: base };
  }

  /** The same where it is there, or how far it is. */
  async look(jobId: string, isSnapshotWanted: boolean): Promise<ReplayStart | Progress> {
    const found = await this.models.JobBase.findByPk(jobId, { attributes: ['version'] });
    if (found !== null) return this.start(jobId, isSnapshotWanted);
    // A file that is read in no time is waited for, so that nobody has to ask twice.
    const making = this.make(jobId);
    const done = making.done.then(({ version, base }) => ({ version, json: base }));
    return Promise.race([done, new Promise<Progress>((resolve) => setTimeout(() => resolve(making.at), PATIENCE))]);
  }

  /** Begins to make a job's base from its file, and does something then; what goes wrong is said to who asks for it. */
  begin(jobId: string, bytes: Buffer | undefined, then: () => void): void {
    this.make(jobId, bytes).done.then(then, (error: unknown) => {
      // Where too much waits, it is made when somebody asks for it.
      if (!(error instanceof PoolClosed) && !(error instanceof NotFound) && !(error instanceof Busy))
        log.error('a file could not be recognized', error);
    });
  }

  /** Keeps a job as it is at a version, so that opening it later need not replay what came before. */
  keepSnapshot(state: JobState): void {
    const { jobId, version } = state;
    this.pool
      .run('snapshot', state)
      .then(async (made) => {
        // Another worker than the one that made the step was asked: the next time will do.
        if (typeof made === 'string') return;
        const snapshot = Buffer.from(made.snapshot);
        await this.models.sequelize.transaction(async (transaction) => {
          const job = await this.models.Job.findByPk(jobId, { transaction, lock: transaction.LOCK.UPDATE });
          const known = await this.models.Snapshot.findByPk(jobId, { transaction, attributes: ['version'] });
          if (job === null || (known !== null && known.version >= version)) return;
          await this.models.Snapshot.upsert({ jobId, version, snapshot }, { transaction, returning: false });
        });
      })
      .catch((error: unknown) => {
        if (!(error instanceof PoolClosed) && !(error instanceof Busy)) log.error('a snapshot could not be kept', error);
      });
  }

  private make(jobId: string, bytes?: Buffer): { readonly done: Promise<JobBaseModel>; at: Progress } {
    const known = this.making.get(jobId);
    if (known !== undefined) return known;
    const making = {
      at: { share: 0, doing: 'waiting' },
      done: this.adopt(jobId, bytes, (at) => (making.at = at)).finally(() => this.making.delete(jobId)),
    };
    this.making.set(jobId, making);
    return making;
  }

  private async adopt(jobId: string, given: Buffer | undefined, progress: (at: Progress) => void): Promise<JobBaseModel> {
    const [job, bytes, entries] = await Promise.all([
      this.models.Job.findByPk(jobId),
      given ?? this.models.JobFile.findByPk(jobId).then((file) => (file === null ? undefined : bytesOf(file))),
      this.models.JournalEntry.findAll({ where: { jobId }, order: ['seq'] }),
    ]);
    if (job === null || bytes === undefined) throw new NotFound('such job');
    const rows = entries.map(({ entry }) => entry as RowEntry);
    const request = { bytes, target: job.initialTarget, entries: rows };
    const { base, recognizer, version } = await this.pool.run('adopt', request, { progress }).catch((error: unknown) => {
      // What nobody can wait for is taken as it is: it can be looked at, measured, and read anew in parts.
      if (rows.length > 0 || !isTooMuch(error)) throw error;
      return this.pool.run('adopt', { ...request, isPlain: true }, { progress });
    });
    return this.models.sequelize.transaction(async (transaction) => {
      const still = await this.models.Job.findByPk(jobId, { transaction, lock: transaction.LOCK.UPDATE });
      if (still === null) throw new NotFound('such job');
      const other = await this.models.JobBase.findByPk(jobId, { transaction });
      return other ?? this.models.JobBase.create({ jobId, recognizer, version, base: Buffer.from(base) }, { transaction });
    });
  }
}

const isTooMuch = (error: unknown): boolean => error instanceof TookTooLong || error instanceof TookTooMuch || error instanceof WorkerDied;

/** So long (ms) who looks for a base is let wait for it. */
const PATIENCE = 250;
