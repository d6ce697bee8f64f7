// npm start: sets everything up, then serves; prints one address when it can be opened.
import { build, installPackages, ROOT, startDatabase } from './setUp.mjs';

process.chdir(ROOT);
installPackages();
await startDatabase('isola');
build();
const { url } = await import('./db.mjs');
process.env.DATABASE_URL ??= url('isola');
process.env.NODE_ENV ??= 'production';
await import('../apps/server/dist/main.js');
