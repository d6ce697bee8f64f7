import type { Migration } from './migration.ts';

/** The week's board: one row, written as a whole on top of the version that it was read at. */
export const board: Migration = {
  name: '012-board',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create table board (
         id integer primary key check (id = 1),
         version integer not null,
         plan jsonb not null);`,
      { transaction },
    );
  },
};
