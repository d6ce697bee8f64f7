import type { Migration } from './migration.ts';

/** What was asked of the server that changes something, and what came of it: added to, and never changed or removed from the application. */
export const happenings: Migration = {
  name: '015-happenings',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create table happenings (
         seq bigint generated always as identity primary key,
         at timestamptz not null default now(),
         who text,
         address text not null,
         method text not null,
         path text not null,
         status integer not null);
       create index on happenings (at);
       create trigger keep_happenings before update or delete on happenings for each row execute function refuse_update();`,
      { transaction },
    );
  },
};
