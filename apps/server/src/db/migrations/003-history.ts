import type { Migration } from './migration.ts';

/**
 * A history that can branch: each entry says after which it was made, a branch is a name on an entry, and a revision points to the entry that it
 * was kept at. What there is so far is one branch.
 */
export const history: Migration = {
  name: '003-history',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `alter table journal_entries add column parent uuid references journal_entries (entry_id) on delete cascade;
       alter table journal_entries disable trigger keep_journal;
       update journal_entries entry set parent = before.entry_id
         from journal_entries before where before.job_id = entry.job_id and before.seq = entry.seq - 1;
       alter table journal_entries enable trigger keep_journal;
       alter table journal_entries add constraint no_entry_after_itself check (parent <> entry_id);

       create table branches (
         job_id uuid not null references jobs (id) on delete cascade,
         name text not null check (name <> ''),
         entry_id uuid references journal_entries (entry_id),
         primary key (job_id, name));
       insert into branches (job_id, name, entry_id)
         select id, 'main', (select entry_id from journal_entries where job_id = jobs.id order by seq desc limit 1) from jobs;

       alter table revisions add column entry_id uuid references journal_entries (entry_id);
       alter table revisions disable trigger keep_revisions;
       update revisions revision set entry_id = entry.entry_id
         from journal_entries entry where entry.job_id = revision.job_id and entry.seq = revision.version;
       alter table revisions enable trigger keep_revisions;`,
      { transaction },
    );
  },
};
