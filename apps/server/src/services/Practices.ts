import type { JobSummary, Practice } from '@isola/contract';
import type { PracticeClaim } from '@isola/core';
import type { Models, PracticeModel } from '../db/models/index.ts';
import { ChangedElsewhere, DoesNotFit, NotFound } from '../errors.ts';
import type { JobDesigns } from './JobDesigns.ts';
import { findJob } from './records.ts';
import type { ReadJob } from './newJob.ts';
import type { Transaction } from 'sequelize';

/** What of jobs it needs: how one is read, stored and begun. */
export interface JobMaker {
  read(job: { fileName: string; bytes: Buffer; target: JobSummary['target']; name: string }): Promise<ReadJob>;
  insert(ready: ReadJob, transaction: Transaction): Promise<JobSummary>;
  begin(id: string, bytes: Buffer | undefined): void;
}

/** Files with planted faults, to practise on. */
export class Practices {
  private readonly models: Models;
  private readonly designs: JobDesigns;
  private readonly jobs: JobMaker;

  constructor(models: Models, designs: JobDesigns, jobs: JobMaker) {
    this.models = models;
    this.designs = designs;
    this.jobs = jobs;
  }

  /** A new job, made of another one's design with so many faults planted in it. @throws DoesNotFit where none can be planted */
  async begin(sourceId: string, count: number): Promise<JobSummary> {
    const source = await findJob(this.models, sourceId);
    const seed = Math.floor(Math.random() * 2 ** 31);
    const { bytes, planted } = await this.designs.run('plant', { ...(await this.designs.stateAt(sourceId, source.version)), count, seed });
    if (planted.length === 0)
      throw new DoesNotFit(`Nothing in ${source.name} can be given a fault: its objects are too few or too small. Choose another file.`);
    const file = Buffer.from(bytes);
    const name = `Practice: ${source.name}`;
    const ready = await this.jobs.read({
      fileName: `practice-${source.fileName.replace(/\.[^.]*$/, '')}.csv`,
      bytes: file,
      target: source.target,
      name,
    });
    const job = await this.models.sequelize.transaction(async (transaction) => {
      const made = await this.jobs.insert(ready, transaction);
      await this.models.Practice.create({ jobId: made.id, planted, claims: [] }, { transaction });
      await this.models.Job.update({ practice: 'open' }, { where: { id: made.id }, transaction });
      return made;
    });
    this.jobs.begin(job.id, file);
    return { ...job, practice: 'open' };
  }

  async get(jobId: string): Promise<Practice> {
    return tell(await this.find(jobId));
  }

  /** Notes what somebody says is wrong, all of it at once. */
  async claim(jobId: string, version: number, claims: readonly PracticeClaim[]): Promise<Practice> {
    const { result } = await this.find(jobId);
    if (result !== null && result !== undefined) throw new DoesNotFit('It is judged already. Begin another one.');
    const [changed] = await this.models.Practice.update({ claims, version: version + 1 }, { where: { jobId, version } });
    if (changed === 0) throw new ChangedElsewhere('What was said of it was changed in another window. Load the page again.');
    return this.get(jobId);
  }

  /** Judges what was found and mended, once. */
  async judge(jobId: string): Promise<Practice> {
    const practice = await this.find(jobId);
    if (practice.result !== null && practice.result !== undefined) return tell(practice);
    const { version } = await findJob(this.models, jobId);
    const { planted, claims } = practice;
    const { result } = await this.designs.run('practise', { ...(await this.designs.stateAt(jobId, version)), planted, claims });
    await this.models.sequelize.transaction(async (transaction) => {
      await this.models.Practice.update({ result }, { where: { jobId }, transaction });
      await this.models.Job.update({ practice: 'judged' }, { where: { id: jobId }, transaction });
    });
    return this.get(jobId);
  }

  private async find(jobId: string): Promise<PracticeModel> {
    const found = await this.models.Practice.findByPk(jobId);
    if (found === null) throw new NotFound('such practice');
    return found;
  }
}

/** What was planted stays untold until it is judged. */
function tell({ jobId, version = 0, planted, claims, result }: PracticeModel): Practice {
  return { jobId, version, faults: planted.length, claims, result: result ?? null };
}
