import type { Migration } from './migration.ts';

/** People who may come in, their sessions, links by which new ones are let in, and how often somebody tried; and who made each step. */
export const people: Migration = {
  name: '014-people',
  async up(queries, transaction) {
    await queries.sequelize.query(
      `create table people (
         id uuid primary key,
         name text not null check (name <> ''),
         role text not null check (role in ('owner', 'digitizer', 'operator', 'guest')),
         password text not null,
         is_out boolean not null default false,
         created_at timestamptz not null default now());
       create unique index on people (lower(name));
       create table sessions (
         token_hash text primary key,
         person_id uuid not null references people (id) on delete cascade,
         agent text not null,
         seen_at timestamptz not null default now(),
         expires_at timestamptz not null,
         created_at timestamptz not null default now());
       create index on sessions (person_id);
       create table invitations (
         token_hash text primary key,
         role text not null check (role in ('owner', 'digitizer', 'operator', 'guest')),
         invited_by text not null,
         expires_at timestamptz not null,
         created_at timestamptz not null default now());
       create table rate_limits (key varchar(255) primary key, points integer not null default 0, expire bigint);
       alter table journal_entries add column who text;`,
      { transaction },
    );
  },
};
