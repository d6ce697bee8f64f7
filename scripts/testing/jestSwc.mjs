// Jest: TypeScript by swc. Each module takes what it computes with from its global object once: a name that is looked up in the
// global object of a test's own context costs many times what a name of the module does, and most time here is arithmetic
// (plan.test.ts takes 34 s so, and 101 s without).
import { createHash } from 'node:crypto';
import swc from '@swc/jest';

const TAKEN = [
  ...['Array', 'Infinity', 'JSON', 'Map', 'Math', 'NaN', 'Number', 'Object', 'Set', 'String'],
  ...['Float32Array', 'Float64Array', 'Int8Array', 'Int16Array', 'Int32Array', 'Uint8Array', 'Uint16Array', 'Uint32Array'],
];

/** Before the first line, so that lines keep their numbers. */
const PREFIX = `const { ${TAKEN.join(', ')} } = globalThis; `;

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    return {
      ...inner,
      getCacheKey: (...args) =>
        createHash('sha1')
          .update(PREFIX + inner.getCacheKey(...args))
          .digest('hex'),
      process: (source, ...rest) => inner.process(PREFIX + source, ...rest),
      processAsync: (source, ...rest) => inner.processAsync(PREFIX + source, ...rest),
    };
  },
};
