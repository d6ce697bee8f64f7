import type { Migration } from './migration.ts';

/**
 * What lists of jobs are found and put in order by, kept beside each job by the database itself: its words, its place (those that are not released by
 * their dates, then those that are, the latest first), and what was saved on the order.
 */
export const jobLists: Migration = {
  name: '017-job-lists',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create extension if not exists pg_trgm;
       alter table jobs
         add column words text not null default '',
         add column place double precision not null default 0,
         add column saved_seconds double precision not null default 0;
       create function list_job() returns trigger language plpgsql as $$
       begin
         new.words := lower(concat_ws(' ', new.name, new.customer, new.file_name, new.target #>> '{fabric,name}', new.target #>> '{garment,name}',
           case new.stage when 'taken-in' then 'taken in' when 'in-work' then 'in work' else 'released' end,
           coalesce(new.due::text || to_char(new.due, ' FMDD FMMonth FMDay'), 'no date')));
         new.saved_seconds := coalesce((new.before #>> '{run,seconds}')::double precision - (new.now #>> '{run,seconds}')::double precision, 0)
           * coalesce((new.target ->> 'quantity')::double precision, 1);
         new.place := case when new.stage <> 'released' then coalesce(new.due - date '2000-01-01', 1e6)
           else 1e9 - coalesce(new.due - date '2000-01-01', 0) end;
         return new;
       end $$;
       create trigger list_job before insert or update on jobs for each row execute function list_job();
       alter table jobs disable trigger user;
       alter table jobs enable trigger list_job;
       update jobs set name = name;
       alter table jobs enable trigger user;
       create index jobs_listed on jobs (place, created_at, id) include (saved_seconds) where deleted_at is null;
       create index jobs_words on jobs using gin (words gin_trgm_ops);
       create index jobs_deleted on jobs (deleted_at) where deleted_at is not null;`,
      { transaction },
    );
  },
};
