// What most test files of server and web import is bundled once before they run: each file loads its modules anew, and hundreds of small ones take a second.
import path from 'node:path';
import { build } from 'esbuild';

const ROOT = path.resolve(import.meta.dirname, '..');

export default async function bundleForTests() {
  await build({
    absWorkingDir: ROOT,
    entryPoints: { core: 'packages/core/src/index.ts' },
    outdir: '.cache/jest',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    sourcemap: 'inline',
    logLevel: 'warning',
  });
}
