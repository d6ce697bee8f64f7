import type { Migration } from './migration.ts';

/** Names that people give to branches (by the step that begins each) and to revisions (by their numbers), beside what never changes. */
export const givenNames: Migration = {
  name: '010-given-names',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create table given_names (
         job_id uuid not null references jobs (id) on delete cascade,
         kind text not null check (kind in ('branch', 'revision')),
         subject text not null,
         name text not null check (name <> ''),
         primary key (job_id, kind, subject),
         unique (job_id, kind, name));`,
      { transaction },
    );
  },
};
