import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import path from 'node:path';
import { test as base } from '@playwright/test';
import { Sequelize } from 'sequelize';
import { freePort } from './freePort.ts';

const ROOT = path.resolve(import.meta.dirname, '..');
const DATABASE = 'isola_e2e';
/** Tests that go on beside each other have a cluster of their own: some stop it. */
const INDEX = Number(process.env['BROWSER_LANE'] ?? 0) * 2 + Number(process.env['TEST_PARALLEL_INDEX'] ?? 0);
const CLUSTER = {
  DB_CLUSTER: `postgres-e2e-${INDEX}`,
  DB_PORT: String(Number(process.env['DB_PORT'] ?? 54_429) + 1 + INDEX),
  DB_DURABLE: 'off',
};

/** The production server on its own database, under the tests' control. */
export class IsolaServer {
  readonly url: string;
  private readonly port: number;
  private child: ChildProcess | undefined;

  private constructor(port: number) {
    this.port = port;
    this.url = `http://localhost:${port}`;
  }

  /** Starts on a database with the demo as it comes, each file of it recognized. */
  static async startFresh(): Promise<IsolaServer> {
    execFileSync(process.execPath, [path.join(ROOT, 'scripts/testing/fillShop.mjs')], { stdio: 'inherit' });
    database('stop');
    database('copy-of', 'postgres-e2e-filled');
    database('start');
    const server = new IsolaServer(await freePort());
    await server.start();
    return server;
  }

  /** What the server is told of its database and address. */
  environment(): Record<string, string> {
    return {
      DATABASE_URL: database('url', DATABASE, 'server'),
      DATABASE_OWNER_URL: database('url', DATABASE),
      PORT: String(this.port),
      NODE_ENV: 'production',
    };
  }

  async start(more: Readonly<Record<string, string>> = {}): Promise<void> {
    const env = { ...process.env, ...this.environment(), ...more };
    const child = spawn(process.execPath, [path.join(ROOT, 'apps/server/dist/main.js')], {
      cwd: ROOT,
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.child = child;
    await new Promise<void>((resolve, reject) => {
      child.stdout.on('data', (data: Buffer) => data.includes('Isola is at') && resolve());
      child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    });
  }

  /** Ends the server as a signal does, and waits until it is gone. */
  async end(signal: 'SIGTERM' | 'SIGKILL'): Promise<void> {
    const child = this.child;
    if (child === undefined) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await gone;
    this.child = undefined;
  }

  /** Runs statements on the database, as another version of the server left it. */
  async query(statement: string, replacements: Record<string, unknown>): Promise<void> {
    const connection = new Sequelize(database('url', DATABASE), { logging: false });
    await connection.query(statement, { replacements });
    await connection.close();
  }

  restartDatabase(): void {
    database('stop');
    database('start');
  }
}

function database(...args: string[]): string {
  return execFileSync(process.execPath, [path.join(ROOT, 'scripts/db.mjs'), ...args], {
    encoding: 'utf8',
    env: { ...process.env, ...CLUSTER },
  }).trim();
}

/** Tests of the real interface: each has `isola`, and pages that open on it. */
export const test = base.extend<object, { isola: IsolaServer }>({
  isola: [
    async ({}, use) => {
      const server = await IsolaServer.startFresh();
      await use(server);
      await server.end('SIGTERM');
      database('stop');
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  baseURL: async ({ isola }, use) => use(isola.url),
});
export { expect } from '@playwright/test';
