// The scripts of the components as TypeScript files of their own, line by line where they stood, so that a linter which knows types but no
// components can read them.
import * as fs from 'node:fs';
import path from 'node:path';
import { parse } from 'vue/compiler-sfc';

const ROOT = path.resolve(import.meta.dirname, '../..');
const SOURCE = path.join(ROOT, 'apps/web/src');

/** Writes them below a folder, with a tsconfig.json in which they take the place of their components. Returns how many there are. */
export function writeComponentScripts(folder) {
  fs.mkdirSync(folder, { recursive: true });
  let count = 0;
  for (const name of fs.readdirSync(SOURCE, { recursive: true })) {
    if (!name.endsWith('.vue')) continue;
    const { descriptor } = parse(fs.readFileSync(path.join(SOURCE, name), 'utf8'));
    const block = descriptor.scriptSetup ?? descriptor.script;
    if (block === null) continue;
    const file = path.join(folder, 'src', `${name}.script.ts`);
    fs.mkdirSync(path.dirname(file), { recursive: true });
    // A script's text begins with the end of its tag's line, where there is room for its type parameter. Without an export it would be no module.
    const [, parameter, bound] = /^(\w+) extends (.*)$/.exec(block.attrs.generic ?? '') ?? [];
    const type = parameter === undefined ? '' : `type ${parameter} = ${bound};`;
    fs.writeFileSync(file, `${'\n'.repeat(block.loc.start.line - 1)}${type}${block.content}export {};\n`);
    count++;
  }
  const web = path.join(ROOT, 'apps/web');
  const config = {
    extends: path.join(web, 'tsconfig.json'),
    compilerOptions: { rootDirs: [SOURCE, path.join(folder, 'src')], incremental: false },
    include: ['src', path.join(SOURCE, 'vue-files.d.ts')],
    references: [{ path: path.join(ROOT, 'packages/core') }],
  };
  fs.writeFileSync(path.join(folder, 'tsconfig.json'), JSON.stringify(config));
  return count;
}
