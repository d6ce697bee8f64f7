import type { Migration } from './migration.ts';

/** By which a request that is sent again is known: files that were taken in, and revisions. */
export const requestKeys: Migration = {
  name: '005-request-keys',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `alter table jobs add column request_key uuid unique;
       alter table revisions add column request_key uuid unique;`,
      { transaction },
    );
  },
};
