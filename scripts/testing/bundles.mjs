// What most test files of server and web import is bundled once before they run: each file loads its modules anew, and hundreds of small ones take a second.
import * as fs from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';
import { digest, isFresh, ROOT, stamp } from '../setUp.mjs';

/** Where the bundles lie (jest.config.mjs). */
const FOLDER = '.cache/jest';
const COMMON = { absWorkingDir: ROOT, bundle: true, format: 'esm', target: 'node20', logLevel: 'warning', outExtension: { '.js': '.mjs' } };

/** Packages of the page that share state or each other: bundled together, so that there is one Vue. */
export const PAGE_PACKAGES = ['vue', 'vuetify', 'vuetify/components', '@vue/test-utils', 'pinia', 'vue-router', 'zod'];
export const bundleOf = (name) => name.replace('@', '').replaceAll('/', '-');

/** Bundles what changed since it was bundled. */
export default async function bundleForTests() {
  const digests = digest('packages/core', 'package-lock.json', 'scripts/testing');
  if (fs.existsSync(path.join(ROOT, FOLDER, 'core.mjs')) && isFresh('test bundles', digests)) return;
  await build({
    ...COMMON,
    entryPoints: { core: 'packages/core/src/index.ts' },
    outdir: FOLDER,
    platform: 'node',
    packages: 'external',
    sourcemap: 'inline',
  });
  await build({
    ...COMMON,
    entryPoints: Object.fromEntries(PAGE_PACKAGES.map((name) => [bundleOf(name), name])),
    outdir: path.join(FOLDER, 'page'),
    platform: 'browser',
    splitting: true,
    // With the compiler: tests write templates.
    alias: { vue: 'vue/dist/vue.esm-bundler.js' },
    define: {
      'process.env.NODE_ENV': '"test"',
      __VUE_OPTIONS_API__: 'true',
      __VUE_PROD_DEVTOOLS__: 'false',
      __VUE_PROD_HYDRATION_MISMATCH_DETAILS__: 'false',
    },
    nodePaths: ['apps/web/node_modules', 'node_modules'],
    loader: { '.css': 'empty', '.sass': 'empty' },
  });
  stamp('test bundles', digests);
}

if (import.meta.filename === process.argv[1]) await bundleForTests();
