// npm run doctor: replays every job and says what differs from what was stored.
import { build, installPackages, ROOT, startDatabase } from './setUp.mjs';

process.chdir(ROOT);
installPackages();
const name = process.env.DB_NAME ?? 'isola';
await startDatabase(name);
build();
const { SERVER, url } = await import('./db.mjs');
process.env.DATABASE_URL ??= url(name, SERVER);
process.env.DATABASE_OWNER_URL ??= url(name);
await import('../apps/server/dist/doctor.js');
