import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { Sequelize } from 'sequelize';
import { connectDatabase } from '../db/connect.ts';

const ROOT = path.resolve(import.meta.dirname, '../../../..');
/** Held while the template is made: several test files begin at once. */
const TEMPLATE_LOCK = 715_004_119;

interface DatabaseScripts {
  readonly start: (options: { quiet: boolean; databases: string[] }) => Promise<string>;
  readonly has: (name: string) => boolean;
  readonly recreate: (name: string, template?: string) => void;
  readonly url: (name: string) => string;
}

/** Makes a database anew with the schema as it is today and nothing in it: copied from one that went through the migrations once. Returns its address. */
export async function databaseForTest(name: string): Promise<string> {
  const { start, has, recreate, url } = (await import(path.join(ROOT, 'scripts/db.mjs'))) as DatabaseScripts;
  const maintenance = await start({ quiet: true, databases: ['postgres'] });
  const template = `isola_template_${digestOfSchema()}`;
  const connection = new Sequelize(maintenance, { logging: false });
  await connection.transaction(async (transaction) => {
    await connection.query(`select pg_advisory_xact_lock(${TEMPLATE_LOCK})`, { transaction });
    if (!has(template)) {
      const half = `${template}_half`;
      recreate(half);
      const { sequelize } = await connectDatabase(url(half));
      await sequelize.close();
      // Under its name there is only a whole one.
      await connection.query(`alter database "${half}" rename to "${template}"`);
    }
    recreate(name, template);
  });
  await connection.close();
  return url(name);
}

/** A digest of all that the schema is made by: the migrations, the queue and its package's version. */
function digestOfSchema(): string {
  const folder = path.join(ROOT, 'apps/server/src/db');
  const hash = createHash('sha256');
  for (const name of readdirSync(folder, { recursive: true, encoding: 'utf8' }).sort())
    if (name.endsWith('.ts') && !name.endsWith('.test.ts')) hash.update(name).update(readFileSync(path.join(folder, name)));
  return hash
    .update(readFileSync(path.join(ROOT, 'apps/server/package.json')))
    .digest('hex')
    .slice(0, 12);
}
