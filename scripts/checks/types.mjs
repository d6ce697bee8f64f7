// Checks all types: the core once, into declarations that all others read; what is plain TypeScript by its native compiler; components by vue-tsc.
import { spawnSync } from 'node:child_process';
import path from 'node:path';

const ROOT = path.resolve(import.meta.dirname, '../..');
const run = (...args) => spawnSync(process.execPath, args, { cwd: ROOT, stdio: 'inherit' }).status === 0;
const PROJECTS = ['packages/core', 'tsconfig.node.json', 'apps/web/tsconfig.worker.json', 'tsconfig.tools.json'];

const results = [run('node_modules/typescript7/bin/tsc', '-b', ...PROJECTS), run('node_modules/vue-tsc/bin/vue-tsc.js', '-p', 'apps/web')];
process.exitCode = results.every(Boolean) ? 0 : 1;
