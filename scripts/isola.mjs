// npm run -s isola -- COMMAND …: the command line, on the core alone. Its output is the command's and nothing else.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { installPackages, ROOT } from './setUp.mjs';

installPackages();
const main = path.join(ROOT, 'packages/cli/src/main.ts');
const tsx = new URL('../node_modules/tsx/dist/loader.mjs', import.meta.url).href;
// npm runs scripts in the project's folder; files are meant from where the user stands.
const result = spawnSync(process.execPath, ['--import', tsx, main, ...process.argv.slice(2)], {
  stdio: 'inherit',
  cwd: process.env.INIT_CWD ?? process.cwd(),
});
process.exitCode = result.status ?? 2;
