import type { Migration } from './migration.ts';

/** Which revisions were released, how many findings of severity stop were open (of earlier ones it is not known), the last of them beside its job, and who took a file though something stood against it, and why. */
export const releases: Migration = {
  name: '007-releases',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `alter table revisions add column is_release boolean not null default false, add column stop_count integer;
       alter table jobs add column released jsonb;
       alter table revisions disable trigger keep_revisions;
       update revisions set is_release = true where (job_id, number) in
         (select job_id, max(number) from revisions join jobs on id = job_id where stage = 'released' group by job_id);
       alter table revisions enable trigger keep_revisions;
       update jobs set released = jsonb_build_object('number', number, 'version', revisions.version, 'figures', figures)
         from revisions where job_id = jobs.id and is_release;

       create table sign_offs (
         id uuid primary key,
         job_id uuid not null references jobs (id) on delete cascade,
         version integer not null,
         who text not null check (who <> ''),
         reason text not null check (reason <> ''),
         stops jsonb not null,
         created_at timestamptz not null default now());
       create index on sign_offs (job_id);
       create trigger keep_sign_offs before update on sign_offs for each row execute function refuse_update();`,
      { transaction },
    );
  },
};
