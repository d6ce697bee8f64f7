// npm test: sets everything up, then checks types, lint, format, units and the real interface, as a commit needs it; ends with one line of totals.
import { installBrowser, installPackages, ROOT } from './setUp.mjs';

// A cluster of its own: the tests restart it, and must not disturb a server that runs beside them. Nothing in it has to outlive the machine.
process.env.DB_CLUSTER = 'postgres-test';
process.env.DB_PORT ??= '54429';
process.env.DB_DURABLE = 'off';
process.chdir(ROOT);
installPackages();
installBrowser();
const { runChecks } = await import('./checks/checks.mjs');
process.exitCode = (await runChecks({ isAll: false })) > 0 ? 1 : 0;
