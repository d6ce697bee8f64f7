// npm run owner: prints a link by which an owner of the shop is let in.
import { build, installPackages, ROOT, startDatabase } from './setUp.mjs';

process.chdir(ROOT);
installPackages();
const name = process.env.DB_NAME ?? 'isola';
await startDatabase(name);
build();
const { SERVER, url } = await import('./db.mjs');
process.env.DATABASE_URL ??= url(name, SERVER);
process.env.DATABASE_OWNER_URL ??= url(name);
await import('../apps/server/dist/owner.js');
