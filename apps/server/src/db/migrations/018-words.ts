import type { Migration } from './migration.ts';

/** What happened, in words as its route has them; what was noted before has its method and address. */
export const words: Migration = {
  name: '018-words',
  async up(queries, transaction) {
    await queries.sequelize.query('alter table happenings add column words text', { transaction });
  },
};
