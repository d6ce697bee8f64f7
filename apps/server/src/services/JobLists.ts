import type { DeletedJob, JobSummary } from '@isola/contract';
import { Op, QueryTypes } from 'sequelize';
import type { Models } from '../db/models/index.ts';
import { summarizeDeleted, summarizeJob } from './records.ts';

/** So many jobs are told at once at most, where nobody says how many. */
export const MOST_LISTED = 500;
/** More jobs that are found than this are not counted. */
const MOST_COUNTED = 1000;
const MOST_DELETED = 200;

export interface JobSearch {
  /** Each has to be in a job's name, customer, file, cloth, place, stage or date; `late`, `today` and `tomorrow` speak of the date. */
  readonly words?: string | undefined;
  /** Those that are not released; those that are to be sewn: no practices, and not sewn by the board. */
  readonly of?: 'open' | 'board' | undefined;
  readonly limit?: number | undefined;
  readonly offset?: number | undefined;
}

export interface JobList {
  readonly jobs: readonly JobSummary[];
  /** How many there are; of those that are looked for {@link MOST_COUNTED} at most. */
  readonly total: number;
  /** Seconds that were saved on all orders; not told of those that are looked for. */
  readonly savedSeconds: number | undefined;
}

/** Jobs as lists show them: what is due first, first. */
export class JobLists {
  private readonly models: Models;

  constructor(models: Models) {
    this.models = models;
  }

  async list({ words = '', of, limit = MOST_LISTED, offset = 0 }: JobSearch): Promise<JobList> {
    const [where, replacements] = conditionsOf(words, of);
    const { sequelize, Job } = this.models;
    const isAll = where.length === 1;
    const condition = where.join(' and ');
    const [found, [counted]] = await Promise.all([
      sequelize.query(
        `select * from jobs where id in (select id from jobs where ${condition} order by place, created_at limit :limit offset :offset)
         order by place, created_at`,
        { replacements: { ...replacements, limit, offset }, model: Job, mapToModel: true },
      ),
      sequelize.query<{ total: string; saved: number | null }>(
        isAll
          ? 'select count(*) as total, sum(saved_seconds) as saved from jobs where deleted_at is null'
          : `select count(*) as total, null as saved from (select 1 from jobs where ${condition} limit ${MOST_COUNTED}) as found`,
        { replacements, type: QueryTypes.SELECT },
      ),
    ]);
    return { jobs: found.map(summarizeJob), total: Number(counted!.total), savedSeconds: isAll ? (counted!.saved ?? 0) : undefined };
  }

  /** Jobs that were deleted and can be put back, the last first. */
  async deleted(): Promise<DeletedJob[]> {
    const where = { deletedAt: { [Op.ne]: null } };
    const jobs = await this.models.Job.findAll({ where, order: [['deletedAt', 'DESC']], paranoid: false, limit: MOST_DELETED });
    return jobs.map(summarizeDeleted);
  }
}

/** From when on days are counted in the places of jobs; see the trigger that keeps them. */
const EPOCH = '2000-01-01';

/** Words about the date of jobs that are not released: their place in the list are the days since the epoch. */
const ABOUT_DUE: Readonly<Record<string, string>> = {
  late: 'place < current_date - :epoch::date',
  today: 'place = current_date - :epoch::date',
  tomorrow: 'place = current_date + 1 - :epoch::date',
};

function conditionsOf(words: string, of: JobSearch['of']): [conditions: string[], replacements: Record<string, string>] {
  const conditions = ['deleted_at is null'];
  const replacements: Record<string, string> = { epoch: EPOCH };
  if (of === 'open') conditions.push(`stage <> 'released'`);
  if (of === 'board')
    conditions.push(`practice is null and not exists (select 1 from board where plan -> 'sewn' @> to_jsonb(jobs.id::text))`);
  for (const [k, word] of words.toLowerCase().split(/\s+/).filter(Boolean).slice(0, 12).entries()) {
    const about = ABOUT_DUE[word];
    replacements[`word${k}`] = `%${word.replaceAll(/[\\%_]/g, '\\$&')}%`;
    conditions.push(about ?? `words like :word${k}`);
  }
  return [conditions, replacements];
}
