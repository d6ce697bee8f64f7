// Lints all: TypeScript and imports, the scripts of components with their types, components themselves, and regular expressions.
import { spawnSync } from 'node:child_process';
import * as fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { writeComponentScripts } from './componentScripts.mjs';

const ROOT = path.resolve(import.meta.dirname, '../..');
const program = (name) => path.join(ROOT, 'node_modules', name);
const run = (args, cwd = ROOT) => spawnSync(process.execPath, args, { cwd, stdio: 'inherit' }).status === 0;
const oxlint = (config, folder, cwd) => run([program('oxlint/bin/oxlint'), '-c', config, '--type-aware', '--deny-warnings', folder], cwd);

/** The linter passes over what git ignores, so these files lie outside the project. */
function lintComponentScripts() {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'component-scripts-'));
  try {
    fs.symlinkSync(program(''), path.join(folder, 'node_modules'));
    writeComponentScripts(folder);
    return oxlint(path.join(ROOT, 'scripts/checks/componentScripts.oxlint.mjs'), 'src', folder);
  } finally {
    fs.rmSync(folder, { recursive: true });
  }
}

const eslint = [program('eslint/bin/eslint.js'), '.', '--max-warnings', '0', '--cache', '--cache-location', '.cache/eslint'];
const results = [oxlint('oxlint.config.mjs', '.'), lintComponentScripts(), run(eslint)];
process.exitCode = results.every(Boolean) ? 0 : 1;
