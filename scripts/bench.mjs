// npm run bench: measures speed and memory, and prints them as tables. Compare within one run: machines differ, and so do hours.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { build, installBrowser, installPackages, ROOT, startDatabase } from './setUp.mjs';

process.chdir(ROOT);
if (process.argv[2] === 'checks') {
  // It needs nothing of what is here but what is committed.
  process.exit(spawnSync(process.execPath, ['bench/checks.bench.mjs'], { stdio: 'inherit' }).status);
}
process.env.DB_CLUSTER = 'postgres-test';
process.env.DB_PORT ??= '54429';
installPackages();
installBrowser();
await startDatabase('isola_bench');
build();
// Bundled as the applications are: a loader that follows every import would be measured too.
const { build: bundle } = await import('esbuild');
const outdir = path.join(ROOT, '.cache', 'bench');
await bundle({
  entryPoints: [
    'bench/core.bench.ts',
    'bench/steps.bench.ts',
    'bench/order.bench.ts',
    'bench/audit.bench.ts',
    'bench/repairs.bench.ts',
    'bench/shapes.bench.ts',
    'bench/points.bench.ts',
    'bench/release.bench.ts',
    'bench/server.bench.ts',
    'bench/browser.bench.ts',
  ],
  outdir,
  bundle: true,
  platform: 'node',
  format: 'esm',
  external: ['@playwright/test', 'pdfkit'],
  logLevel: 'warning',
  outExtension: { '.js': '.mjs' },
});
for (const part of process.argv[2]
  ? [process.argv[2]]
  : ['core', 'steps', 'order', 'audit', 'repairs', 'shapes', 'points', 'release', 'server', 'browser']) {
  const { status } = spawnSync(process.execPath, [path.join(outdir, `${part}.bench.mjs`)], { stdio: 'inherit', cwd: ROOT });
  if (status !== 0) process.exitCode = 1;
}
