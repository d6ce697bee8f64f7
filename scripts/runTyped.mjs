import { spawnSync } from 'node:child_process';
import { build, installPackages, ROOT } from './setUp.mjs';

/** Builds, then runs a program that is written in TypeScript with what was given to this one. */
export function runTyped(entry) {
  process.chdir(ROOT);
  installPackages();
  build();
  const result = spawnSync(process.execPath, ['--import', 'tsx', entry, ...process.argv.slice(2)], { cwd: ROOT, stdio: 'inherit' });
  process.exitCode = result.status ?? 1;
}
