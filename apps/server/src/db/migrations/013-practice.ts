import type { Migration } from './migration.ts';

/** Jobs to practise on: what was planted in their files, what somebody said of them, and what came of it. */
export const practice: Migration = {
  name: '013-practice',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create table practices (
         job_id uuid primary key references jobs (id) on delete cascade,
         version integer not null default 0,
         planted jsonb not null,
         claims jsonb not null,
         result jsonb,
         created_at timestamptz not null default now());
       alter table jobs add column practice text check (practice in ('open', 'judged'));`,
      { transaction },
    );
  },
};
