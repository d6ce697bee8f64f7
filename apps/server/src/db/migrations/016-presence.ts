import type { Migration } from './migration.ts';

/** Who has which job open, as windows say it again and again: nothing of it is worth keeping over a crash. */
export const presence: Migration = {
  name: '016-presence',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create unlogged table presences (
         page uuid primary key,
         job_id uuid not null references jobs (id) on delete cascade,
         who text,
         stage text not null,
         seen_at timestamptz not null default now());
       create index on presences (job_id);`,
      { transaction },
    );
  },
};
