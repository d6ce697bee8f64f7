// npm run torture [kills | statements | disk | hostile | worst | load] [how many]: builds, then attacks the server.
import { spawnSync } from 'node:child_process';
import { build, installPackages, ROOT } from './setUp.mjs';

process.chdir(ROOT);
installPackages();
build();
const result = spawnSync(process.execPath, ['--import', 'tsx', 'torture/main.ts', ...process.argv.slice(2)], {
  cwd: ROOT,
  stdio: 'inherit',
});
process.exitCode = result.status ?? 1;
