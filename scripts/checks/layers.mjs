// Which folder may import which: the lint holds it (oxlint.config.mjs), and docs/core.md prints it.

/** The import order of packages/core: a folder imports only from those before it, so that data flows one way. */
export const CORE_ORDER = [
  'geometry',
  'model',
  'words',
  'materials',
  'measure',
  'generate',
  'formats',
  'recognize',
  'plan',
  'order',
  'audit',
  'edit',
  'hoopLayout',
  'release',
  'practice',
];

/** The workspaces that a workspace must not import from. */
export const FORBIDDEN_WORKSPACES = {
  'packages/contract': ['web', 'server', 'cli'],
  'packages/sheets': ['web', 'server', 'cli'],
  'packages/cli': ['web', 'server'],
  'apps/server': ['web', 'cli'],
  'apps/web': ['server', 'cli'],
};
