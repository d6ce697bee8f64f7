import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import path from 'node:path';

/** Starts the built server on an empty database of its own, without the demo's jobs. */
export async function startServer(port: number): Promise<{ readonly server: ChildProcess; readonly url: string }> {
  const database = (...args: string[]): string =>
    execFileSync(process.execPath, [path.join(process.cwd(), 'scripts/db.mjs'), ...args], { encoding: 'utf8' }).trim();
  database('recreate', 'isola_bench');
  const env = { ...process.env, DATABASE_URL: database('url', 'isola_bench'), PORT: String(port), NODE_ENV: 'production', DEMO: 'off' };
  const server = spawn(process.execPath, ['apps/server/dist/main.js'], { env, stdio: ['ignore', 'pipe', 'inherit'] });
  await new Promise((resolve) => server.stdout.once('data', resolve));
  return { server, url: `http://localhost:${port}` };
}
