import type { Migration } from './migration.ts';

/** Who changed which record of the shop, when, why, and how it was before. */
export const shopChanges: Migration = {
  name: '008-shop-changes',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create table shop_changes (
         seq bigint generated always as identity primary key,
         id uuid not null unique,
         kind text not null,
         record_id text not null,
         before jsonb,
         after jsonb,
         undoes uuid,
         who text not null check (who <> ''),
         why text not null,
         created_at timestamptz not null default now());
       create index on shop_changes (kind, record_id);
       create trigger keep_shop_changes before update on shop_changes for each row execute function refuse_update();`,
      { transaction },
    );
  },
};
