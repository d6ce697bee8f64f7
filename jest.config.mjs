import { bundleOf, PAGE_PACKAGES } from './scripts/testing/bundles.mjs';

const swc = [
  '<rootDir>/scripts/testing/jestSwc.mjs',
  { jsc: { target: 'es2022', parser: { syntax: 'typescript' } }, module: { type: 'es6' }, sourceMaps: 'inline' },
];

/** @type {import('jest').Config} */
const common = {
  testEnvironment: 'node',
  transform: { '^.+\\.ts$': swc },
  extensionsToTreatAsEsm: ['.ts'],
  moduleFileExtensions: ['ts', 'js', 'mjs', 'cjs', 'json', 'node'],
  // culori's ES-module form is 154 files, which costs half a second in every test file: take its bundled form.
  moduleNameMapper: { '^culori$': `${import.meta.dirname}/node_modules/culori/bundled/culori.mjs` },
};

/** Tests of what is built on the core take it in one piece, and those of the page its packages. */
const core = { '^@isola/core$': '<rootDir>/.cache/jest/core.mjs' };
const page = Object.fromEntries(PAGE_PACKAGES.map((name) => [`^${name}$`, `<rootDir>/.cache/jest/page/${bundleOf(name)}.mjs`]));

export default {
  maxWorkers: 2,
  globalSetup: '<rootDir>/scripts/testing/bundles.mjs',
  // Nothing here is a timed test: a machine that is busy elsewhere may take its time, a hang still ends.
  testTimeout: 120_000,
  projects: [
    { ...common, displayName: 'core', roots: ['<rootDir>/packages', '<rootDir>/demo', '<rootDir>/bench', '<rootDir>/scripts'] },
    {
      ...common,
      moduleNameMapper: { ...common.moduleNameMapper, ...core },
      displayName: 'server',
      roots: ['<rootDir>/apps/server/src', '<rootDir>/torture'],
    },
    {
      ...common,
      displayName: 'web',
      roots: ['<rootDir>/apps/web/src'],
      testEnvironment: 'jsdom',
      testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] },
      transform: { ...common.transform, '^.+\\.vue$': '<rootDir>/scripts/testing/jestVue.mjs' },
      extensionsToTreatAsEsm: ['.ts', '.vue'],
      moduleFileExtensions: [...common.moduleFileExtensions, 'vue'],
      moduleNameMapper: {
        ...common.moduleNameMapper,
        ...core,
        ...page,
        '\\.(css|sass|scss)$': '<rootDir>/scripts/testing/jestNoStyles.mjs',
      },
      setupFiles: ['<rootDir>/scripts/testing/jestDomSetUp.mjs'],
    },
  ],
};
