// The lint of all TypeScript and of all imports. eslint.config.mjs holds what is asked of components.
import js from '@eslint/js';
import ts from 'typescript-eslint';
import { CORE_ORDER, FORBIDDEN_WORKSPACES } from './scripts/checks/layers.mjs';

/** Rules of ESLint that this linter has under other names, or that are no syntax of a module. */
const PLAIN = ['no-array-constructor', 'no-unused-expressions', 'no-unused-vars'];
const NOT_HERE = ['no-octal', 'no-dupe-args', 'no-new-symbol'];

/** The rules of ESLint's configurations by this linter's names. */
function rulesOf(...configs) {
  const rename = (name) => {
    const [, short] = /^@typescript-eslint\/(.*)$/.exec(name) ?? [];
    return short === undefined || PLAIN.includes(short) ? (short ?? name) : `typescript/${short}`;
  };
  const rules = configs.flatMap((config) => Object.entries(config.rules ?? {}));
  return Object.fromEntries(rules.filter(([name]) => !NOT_HERE.includes(name)).map(([name, level]) => [rename(name), level]));
}

const CORE_TESTS = ['packages/core/src/**/*.test.ts', 'packages/core/src/testing/**'];
const OUTSIDE_CORE = ['node:*', 'vue', 'hono', 'sequelize', '@isola/*'];

/** packages/core is pure, and each of its folders imports only from those before it. */
const coreImports = (later) => ({
  'no-restricted-imports': [
    'error',
    {
      patterns: [
        { group: OUTSIDE_CORE, message: 'packages/core is pure.' },
        ...later.map((folder) => ({
          group: [`**/../${folder}/*`, `**/../${folder}/**`],
          message: `${folder} comes later in the import order (scripts/checks/layers.mjs).`,
        })),
      ],
    },
  ],
});

export default {
  plugins: ['typescript', 'import'],
  categories: { correctness: 'off' },
  ignorePatterns: ['**/dist/**', '.cache/**', '.data/**', 'test-results/**', 'playwright-report/**'],
  rules: {
    ...rulesOf(js.configs.recommended),
    // Imports of types count: what needs another module's types cannot be read or moved without it.
    'import/no-cycle': ['error', { ignoreTypes: false }],
  },
  overrides: [
    { files: ['**/*.mjs'], env: { node: true, es2022: true } },
    {
      files: ['**/*.{ts,vue}'],
      rules: {
        ...rulesOf(...ts.configs.recommendedTypeChecked),
        'no-undef': 'off', // TypeScript does this
        'typescript/consistent-type-imports': 'error',
        'typescript/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      },
    },
    { files: ['**/*.{ts,mjs}'], rules: { 'no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }] } },
    { files: ['e2e/**/*.ts'], rules: { 'no-empty-pattern': 'off' } }, // Playwright reads a fixture's needs off its first parameter
    {
      // No Node, no DOM, nothing of the applications, no clock and no chance.
      files: ['packages/core/src/**/*.ts'],
      excludeFiles: CORE_TESTS,
      rules: {
        ...coreImports([]),
        'no-restricted-globals': ['error', 'process', 'window', 'document', 'Buffer', 'console', 'performance', 'Date', 'setTimeout'],
        'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'The core takes a seed.' }],
      },
    },
    ...CORE_ORDER.map((folder, k) => ({
      files: [`packages/core/src/${folder}/**/*.ts`],
      excludeFiles: CORE_TESTS,
      rules: coreImports(CORE_ORDER.slice(k + 1)),
    })),
    ...Object.entries(FORBIDDEN_WORKSPACES).map(([folder, others]) => ({
      files: [`${folder}/**/*.{ts,vue}`],
      rules: { 'no-restricted-imports': ['error', { patterns: others.map((name) => ({ group: [`@isola/${name}*`] })) }] },
    })),
    {
      // What an old migration does must not change when a service does.
      files: ['apps/server/src/db/migrations/0*.ts'],
      rules: {
        'no-restricted-imports': [
          'error',
          { patterns: [{ group: ['../**', '@isola/*'], message: 'A migration stands alone: copy what it needs.' }] },
        ],
      },
    },
  ],
};
