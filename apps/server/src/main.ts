import cluster from 'node:cluster';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { readConfig } from './config.ts';
import { startProcesses } from './startProcesses.ts';

const here = path.dirname(fileURLToPath(import.meta.url));
const config = readConfig(process.env, path.resolve(here, '../../..'));
if (config.processes > 1 && cluster.isPrimary) startProcesses(config.processes, config.auditWorkers);
else await (await import('./serve.ts')).serveShop(config, here);
