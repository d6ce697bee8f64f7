const swc = [
  '<rootDir>/scripts/jestSwc.mjs',
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

/** Tests of what is built on the core take it in one piece. */
const core = { '^@isola/core$': '<rootDir>/.cache/jest/core.mjs' };

export default {
  maxWorkers: 2,
  globalSetup: '<rootDir>/scripts/jestBundles.mjs',
  // Nothing here is a timed test: a machine that is busy elsewhere may take its time, a hang still ends.
  testTimeout: 120_000,
  projects: [
    { ...common, displayName: 'core', roots: ['<rootDir>/packages', '<rootDir>/demo', '<rootDir>/bench'] },
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
      transform: { ...common.transform, '^.+\\.vue$': '<rootDir>/scripts/jestVue.mjs' },
      extensionsToTreatAsEsm: ['.ts', '.vue'],
      moduleFileExtensions: [...common.moduleFileExtensions, 'vue'],
      moduleNameMapper: { ...common.moduleNameMapper, ...core, '\\.(css|sass|scss)$': '<rootDir>/scripts/jestNoStyles.mjs' },
      setupFiles: ['<rootDir>/scripts/jestDomSetUp.mjs'],
    },
  ],
};
