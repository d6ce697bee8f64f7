import { createHash } from 'node:crypto';
import canonicalize from 'canonicalize';
import { QueryTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/**
 * Each entry is chained to those before it, and says which program it led to where that was worked out (of earlier ones it was not); a deleted job is
 * kept for a while; files are stored packed.
 */
export const trail: Migration = {
  name: '006-trail',
  async up(queries, transaction) {
    const { sequelize } = queries;
    await sequelize.query(
      `alter table journal_entries add column chain text, add column program_hash text;
       alter table jobs add column deleted_at timestamptz, add column program_hash text;
       alter table job_files add column is_packed boolean not null default false;
       alter table journal_entries disable trigger keep_journal;`,
      { transaction },
    );
    const files = await sequelize.query<{ job: string; sha256: string | null }>(
      'select id as job, sha256 from jobs left join job_files on job_id = id',
      {
        type: QueryTypes.SELECT,
        transaction,
      },
    );
    for (const { job, sha256 } of files) {
      const entries = await sequelize.query<{ seq: number; entry: unknown }>(
        'select seq, entry from journal_entries where job_id = :job order by seq',
        { type: QueryTypes.SELECT, replacements: { job }, transaction },
      );
      let chain = sha256Of(`file ${sha256 ?? ''}`);
      for (const { seq, entry } of entries) {
        chain = sha256Of(`${chain} ${canonicalize(entry)}`);
        const replacements = { job, seq, chain };
        await sequelize.query('update journal_entries set chain = :chain where job_id = :job and seq = :seq', {
          replacements,
          transaction,
        });
      }
    }
    await sequelize.query(
      `alter table journal_entries enable trigger keep_journal;
       alter table journal_entries alter column chain set not null;`,
      { transaction },
    );
  },
};

/** The chain as it was when this migration was written: it stands alone, whatever becomes of the service that goes on with it. */
function sha256Of(text: string): string {
  return createHash('sha256').update(text).digest('hex');
}
