import { DataTypes, literal } from 'sequelize';
import type { Migration } from './migration.ts';

/** What each journal builds on, and by which rulebook a job's findings were counted. */
export const bases: Migration = {
  name: '002-bases',
  async up(q, transaction) {
    await q.createTable(
      'job_bases',
      {
        job_id: { type: DataTypes.UUID, allowNull: false, primaryKey: true, references: { model: 'jobs', key: 'id' }, onDelete: 'CASCADE' },
        recognizer: { type: DataTypes.INTEGER, allowNull: false },
        version: { type: DataTypes.INTEGER, allowNull: false },
        base: { type: DataTypes.BLOB, allowNull: false },
        created_at: { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') },
      },
      { transaction },
    );
    await q.addColumn('jobs', 'rulebook', { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 }, { transaction });
    await q.sequelize.query(
      `create trigger keep_bases before update on job_bases for each row execute function refuse_update();
       alter table job_bases add constraint base_version check (version >= 0);`,
      { transaction },
    );
  },
};
