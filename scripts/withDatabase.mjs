// Makes all ready for a command of the server that works on the shop's database, or on DB_NAME.
import { build, installPackages, ROOT, startDatabase } from './setUp.mjs';

export async function runOnDatabase(entry) {
  process.chdir(ROOT);
  installPackages();
  const name = process.env.DB_NAME ?? 'isola';
  await startDatabase(name);
  build();
  const { SERVER, url } = await import('./db.mjs');
  process.env.DATABASE_URL ??= url(name, SERVER);
  process.env.DATABASE_OWNER_URL ??= url(name);
  await import(`../apps/server/dist/${entry}.js`);
}
