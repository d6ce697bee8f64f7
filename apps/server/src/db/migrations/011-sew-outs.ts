import type { Migration } from './migration.ts';

/**
 * Samples that were sewn, with their photos: they outlast their jobs, since cloths and machines learned of them. And what was gone through before a
 * revision was released, by whom; of earlier ones that is not known. And machines' own files as they came, beside what was read of them.
 */
export const sewOuts: Migration = {
  name: '011-sew-outs',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create table sew_outs (
         id uuid primary key,
         job_id uuid references jobs (id) on delete set null,
         job_name text not null,
         version integer not null default 0,
         record jsonb not null,
         request_key uuid unique,
         created_at timestamptz not null default now());
       create index on sew_outs (job_id);
       create index on sew_outs ((record #>> '{fabric,id}'));
       create index on sew_outs ((record #>> '{machine,id}'));
       create table sew_out_photos (
         id uuid primary key,
         sew_out_id uuid not null references sew_outs (id) on delete cascade,
         name text not null,
         mime text not null,
         width integer not null check (width > 0),
         height integer not null check (height > 0),
         bytes bytea not null,
         points jsonb,
         created_at timestamptz not null default now());
       create index on sew_out_photos (sew_out_id);
       alter table revisions add column who text, add column checks jsonb;
       alter table job_files add column original bytea;`,
      { transaction },
    );
  },
};
