// Jest transformer for Vue single-file components in native ES modules, from the compiler that comes with Vue and esbuild. Styles are left out.
import { createHash } from 'node:crypto';
import { parse, compileScript, compileTemplate } from 'vue/compiler-sfc';
import { transformSync } from 'esbuild';

export default {
  canInstrument: false,
  process(source, filename) {
    const id = createHash('sha1').update(filename).digest('hex').slice(0, 8);
    const { descriptor, errors } = parse(source, { filename });
    if (errors.length) throw errors[0];
    let code;
    if (descriptor.script || descriptor.scriptSetup) {
      const s = compileScript(descriptor, { id, inlineTemplate: true, genDefaultAs: '__sfc__' });
      code = s.content;
    } else {
      code = 'const __sfc__ = {};';
    }
    if (descriptor.template && !descriptor.scriptSetup) {
      const t = compileTemplate({ source: descriptor.template.content, filename, id });
      if (t.errors.length) throw t.errors[0];
      code += `\n${t.code}\n__sfc__.render = render;`;
    }
    code += `\n__sfc__.__file = ${JSON.stringify(filename)};\nexport default __sfc__;`;
    return transformSync(code, { loader: 'ts', format: 'esm', target: 'es2022', sourcemap: 'inline', sourcefile: filename });
  },
};
