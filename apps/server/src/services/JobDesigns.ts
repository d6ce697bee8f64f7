import type { JournalEntry } from '@isola/core';
import { Op } from 'sequelize';
import type { Models } from '../db/models/index.ts';
import { NotFound, StepDoesNotFit, TouchesTheSame } from '../errors.ts';
import type { DesignPool } from '../workers/DesignPool.ts';
import type { Answer, Beside, CountAnswer, DeriveAnswer, JobState, Request, TaskName, WholeJob } from '../workers/protocol.ts';
import type { JobBases } from './JobBases.ts';
import { bytesOf } from './records.ts';

/** Designs of jobs, worked out in processes that have them in hand or are given what they follow from. */
export class JobDesigns {
  private readonly models: Models;
  private readonly pool: DesignPool;
  private readonly bases: JobBases;

  constructor(models: Models, pool: DesignPool, bases: JobBases) {
    this.models = models;
    this.pool = pool;
    this.bases = bases;
  }

  /** A job at a version, for a worker that has it in hand: what that costs does not grow with the journal. */
  async stateAt(id: string, version: number): Promise<JobState> {
    const last = await this.models.JournalEntry.findOne({ where: { jobId: id, seq: version }, attributes: ['entryId'] });
    return { jobId: id, version, lastEntryId: last?.entryId ?? null };
  }

  /** All that a job's design at a version follows from; from its last snapshot before that, where that will do. */
  private async whole({ jobId, version }: JobState, isSnapshotEnough: boolean): Promise<WholeJob> {
    const [file, last] = await Promise.all([this.models.JobFile.findByPk(jobId), this.bases.start(jobId, isSnapshotEnough)]);
    if (file === null) throw new NotFound('such job');
    const base = last.version <= version ? last : await this.bases.start(jobId, false);
    const entries = await this.models.JournalEntry.findAll({
      where: { jobId, seq: { [Op.gt]: base.version, [Op.lte]: version } },
      order: ['seq'],
    });
    return { bytes: await bytesOf(file), base: base.json, entries: entries.map((e) => e.entry as JournalEntry) };
  }

  /** What a job's design would be after more entries. @throws StepDoesNotFit where they do not fit, TouchesTheSame where others touched what they touch. */
  async derive(state: JobState, more: readonly JournalEntry[], beside?: Beside): Promise<DeriveAnswer> {
    const answer = await this.run('derive', { ...state, more, beside });
    if ('refused' in answer) throw new StepDoesNotFit(`${answer.refused}. Reload the job and make the step again.`);
    if ('overlap' in answer) throw new TouchesTheSame(answer.overlap);
    return answer;
  }

  /** What is found in a job's design, which takes longer than making it. */
  count(state: JobState): Promise<CountAnswer> {
    return this.run('count', state);
  }

  /** Asks a worker, which gets the whole job where it does not have it in hand. */
  async run<K extends 'check' | 'count' | 'derive' | 'judge' | 'objects' | 'plant' | 'practise' | 'report' | 'sheet' | 'write'>(
    name: K,
    request: Request<K> & JobState,
  ): Promise<Exclude<Answer<K>, string>> {
    let answer: Answer<TaskName> = await this.pool.run(name, request);
    if (answer === 'state-needed') answer = await this.pool.run(name, { ...request, whole: await this.whole(request, true) });
    if (answer === 'journal-needed') answer = await this.pool.run(name, { ...request, whole: await this.whole(request, false) });
    if (typeof answer === 'string') throw new Error(`a worker that was given a job whole still says ${answer}`);
    return answer as Exclude<Answer<K>, string>;
  }
}
