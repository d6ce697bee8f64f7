import type { Migration } from './migration.ts';

/** A job as it was at a later version, one for each: it follows from the base and the journal, and can be thrown away. */
export const snapshots: Migration = {
  name: '004-snapshots',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create table snapshots (
         job_id uuid primary key references jobs (id) on delete cascade,
         version integer not null check (version > 0),
         snapshot bytea not null,
         created_at timestamptz not null default now());`,
      { transaction },
    );
  },
};
