import { DataTypes, literal } from 'sequelize';
import type { Migration } from './migration.ts';

/** Jobs, their files, journals and revisions, and the shop's records. Journals and revisions cannot be changed once written. */
export const initial: Migration = {
  name: '001-initial',
  async up(q, transaction) {
    const now = literal('now()');
    await q.createTable(
      'jobs',
      {
        id: { type: DataTypes.UUID, primaryKey: true },
        name: { type: DataTypes.TEXT, allowNull: false },
        customer: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
        due: { type: DataTypes.DATEONLY },
        file_name: { type: DataTypes.TEXT, allowNull: false },
        file_kind: { type: DataTypes.TEXT, allowNull: false },
        warnings: { type: DataTypes.JSONB, allowNull: false, defaultValue: [] },
        initial_target: { type: DataTypes.JSONB, allowNull: false },
        target: { type: DataTypes.JSONB, allowNull: false },
        before: { type: DataTypes.JSONB, allowNull: false },
        now: { type: DataTypes.JSONB, allowNull: false },
        findings: { type: DataTypes.JSONB, allowNull: false },
        stage: { type: DataTypes.TEXT, allowNull: false, defaultValue: 'taken-in' },
        version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
        details_version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
        created_at: { type: DataTypes.DATE, allowNull: false, defaultValue: now },
        updated_at: { type: DataTypes.DATE, allowNull: false, defaultValue: now },
      },
      { transaction },
    );
    const job = { type: DataTypes.UUID, allowNull: false, references: { model: 'jobs', key: 'id' }, onDelete: 'CASCADE' };
    await q.createTable(
      'job_files',
      {
        job_id: { ...job, primaryKey: true },
        sha256: { type: DataTypes.TEXT, allowNull: false },
        bytes: { type: DataTypes.BLOB, allowNull: false },
      },
      { transaction },
    );
    await q.createTable(
      'journal_entries',
      {
        job_id: { ...job, primaryKey: true },
        seq: { type: DataTypes.INTEGER, primaryKey: true },
        entry_id: { type: DataTypes.UUID, allowNull: false, unique: true },
        entry: { type: DataTypes.JSONB, allowNull: false },
        created_at: { type: DataTypes.DATE, allowNull: false, defaultValue: now },
      },
      { transaction },
    );
    await q.createTable(
      'revisions',
      {
        job_id: { ...job, primaryKey: true },
        number: { type: DataTypes.INTEGER, primaryKey: true },
        version: { type: DataTypes.INTEGER, allowNull: false },
        name: { type: DataTypes.TEXT, allowNull: false },
        note: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
        figures: { type: DataTypes.JSONB, allowNull: false },
        program: { type: DataTypes.BLOB, allowNull: false },
        created_at: { type: DataTypes.DATE, allowNull: false, defaultValue: now },
      },
      { transaction },
    );
    await q.createTable(
      'shop_records',
      {
        kind: { type: DataTypes.TEXT, primaryKey: true },
        id: { type: DataTypes.TEXT, primaryKey: true },
        position: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
        data: { type: DataTypes.JSONB, allowNull: false },
      },
      { transaction },
    );
    await q.createTable(
      'marks',
      {
        name: { type: DataTypes.TEXT, primaryKey: true },
        created_at: { type: DataTypes.DATE, allowNull: false, defaultValue: now },
      },
      { transaction },
    );
    await q.sequelize.query(
      `
      create function refuse_update() returns trigger language plpgsql as $$
      begin raise exception 'rows of % are never changed', tg_table_name; end $$;
      create trigger keep_journal before update on journal_entries for each row execute function refuse_update();
      create trigger keep_revisions before update on revisions for each row execute function refuse_update();
      create trigger keep_files before update on job_files for each row execute function refuse_update();`,
      { transaction },
    );
  },
};
