import type { Migration } from './migration.ts';

/** Audits of many files at once: what they are judged for, and each file with what came of it. */
export const audits: Migration = {
  name: '009-audits',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create table audits (
         id uuid primary key,
         name text not null,
         target jsonb not null,
         cancelled_at timestamptz,
         created_at timestamptz not null default now());
       create table audit_files (
         audit_id uuid not null references audits (id) on delete cascade,
         seq integer not null,
         name text not null,
         bytes bytea not null,
         state text not null check (state in ('waiting', 'done', 'failed', 'cancelled')),
         tries integer not null default 0,
         result jsonb,
         problem text,
         worker text,
         milliseconds integer,
         finished_at timestamptz,
         primary key (audit_id, seq));
       create index on audit_files (audit_id, state);`,
      { transaction },
    );
  },
};
