// npm run dev: server and web application that follow the sources. Open the address that Vite prints.
import { spawn } from 'node:child_process';
import { build, installPackages, ROOT, startDatabase } from './setUp.mjs';

process.chdir(ROOT);
installPackages();
await startDatabase('isola');
build();
const { url } = await import('./db.mjs');
const env = { ...process.env, DATABASE_URL: process.env.DATABASE_URL ?? url('isola'), PORT: '4310' };
const children = [
  spawn(process.execPath, ['apps/server/build.mjs', '--watch'], { stdio: 'inherit', env }),
  spawn(process.execPath, ['--watch', 'apps/server/dist/main.js'], { stdio: 'inherit', env }),
  spawn(process.execPath, ['node_modules/vite/bin/vite.js', 'apps/web'], { stdio: 'inherit', env }),
];
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => children.forEach((child) => child.kill(signal)));
