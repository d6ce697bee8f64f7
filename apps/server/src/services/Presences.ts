import type { Presence } from '@isola/contract';
import { QueryTypes } from 'sequelize';
import type { Models } from '../db/models/index.ts';
import { findJob } from './records.ts';
import type { Bus } from './Bus.ts';

/** A window that was not heard of for so many seconds is gone; they say that they are there every 20. */
const GONE_AFTER = 50;

/** Who has which job open: told by their windows, to be seen by the others, whichever server process they are at. */
export class Presences {
  private readonly models: Models;
  private readonly bus: Bus;

  constructor(models: Models, bus: Bus) {
    this.models = models;
    this.bus = bus;
  }

  /** A window has a job open; gives all that have. */
  async come(jobId: string, { page, who, stage }: Presence): Promise<Presence[]> {
    await findJob(this.models, jobId);
    const [before] = await this.ask<{ stage: string; job: string }>('select stage, job_id job from presences where page = :page', { page });
    await this.ask(
      `insert into presences (page, job_id, who, stage) values (:page, :jobId, :who, :stage)
       on conflict (page) do update set job_id = excluded.job_id, who = excluded.who, stage = excluded.stage, seen_at = now()`,
      { page, jobId, who, stage },
    );
    if (before?.stage !== stage || before.job !== jobId) this.bus.say({ kind: 'presence', id: jobId });
    return this.list(jobId);
  }

  /** A window was closed, or went to another job. */
  async leave(jobId: string, page: string): Promise<void> {
    await this.ask('delete from presences where page = :page and job_id = :jobId', { page, jobId });
    this.bus.say({ kind: 'presence', id: jobId });
  }

  /** Windows that have a job open, in the order in which they came; those that were not heard of are forgotten. */
  async list(jobId: string): Promise<Presence[]> {
    await this.ask(`delete from presences where job_id = :jobId and seen_at < now() - make_interval(secs => ${GONE_AFTER})`, { jobId });
    return this.ask<Presence>('select page, who, stage from presences where job_id = :jobId order by who, page', { jobId });
  }

  private ask<T extends object>(query: string, replacements: Record<string, unknown>): Promise<T[]> {
    return this.models.sequelize.query<T>(query, { replacements, type: QueryTypes.SELECT });
  }
}
