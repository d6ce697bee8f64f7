// A database cluster with the demo's shop, its designs recognized: browser tests begin on copies of it, in place of recognizing it each time.
import { spawn } from 'node:child_process';
import path from 'node:path';
import { digest, isFresh, ROOT, stamp } from '../setUp.mjs';

const DATABASE = 'isola_e2e';
process.env.DB_CLUSTER = 'postgres-e2e-filled';
process.env.DB_PORT = '54419';
const db = await import('../db.mjs');
let child;

const source = digest('apps/server', 'packages', 'demo', 'package-lock.json', 'scripts/testing/fillShop.mjs');
if (!isFresh('filled shop', source) || !db.exists()) {
  await db.start({ quiet: true, databases: [DATABASE] });
  db.recreate(DATABASE);
  const address = await serve();
  const jobs = await (await fetch(`${address}/api/jobs`)).json();
  for (const { id } of jobs)
    while ((await fetch(`${address}/api/jobs/${id}/base`)).status === 202) await new Promise((resolve) => setTimeout(resolve, 100));
  await end();
  await db.stop();
  stamp('filled shop', source);
}

/** Starts the built server; it fills the database with the demo. */
async function serve() {
  const env = {
    ...process.env,
    DATABASE_URL: db.url(DATABASE, db.SERVER),
    DATABASE_OWNER_URL: db.url(DATABASE),
    PORT: '0',
    NODE_ENV: 'production',
  };
  child = spawn(process.execPath, [path.join(ROOT, 'apps/server/dist/main.js')], { cwd: ROOT, env, stdio: ['ignore', 'pipe', 'inherit'] });
  return new Promise((resolve, reject) => {
    child.stdout.on('data', (data) => {
      const [address] = /http:\/\/localhost:\d+/.exec(String(data)) ?? [];
      if (address !== undefined) resolve(address);
    });
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
}

function end() {
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  return gone;
}
