import { build, context } from 'esbuild';

/** Our own TypeScript (the workspace packages and the demo's drawings too) in one file an entry; everything from node_modules stays outside. */
const options = {
  absWorkingDir: import.meta.dirname,
  entryPoints: [
    'src/main.ts',
    'src/doctor/doctor.ts',
    'src/owner.ts',
    'src/export.ts',
    'src/workers/design.worker.ts',
    'src/workers/audit.worker.ts',
  ],
  outdir: 'dist',
  entryNames: '[name]',
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: true,
  logLevel: 'warning',
  plugins: [
    {
      name: 'externals',
      setup(b) {
        b.onResolve({ filter: /^[^./]/ }, (a) =>
          a.path.startsWith('@isola/') || a.kind === 'entry-point' ? undefined : { path: a.path, external: true },
        );
      },
    },
  ],
};

if (process.argv.includes('--watch')) await (await context(options)).watch();
else await build(options);
