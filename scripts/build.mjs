// node scripts/build.mjs [web | server]: builds what changed, of both or of one.
import { buildServer, buildWeb } from './setUp.mjs';

const [, , only] = process.argv;
if (only !== 'server') buildWeb();
if (only !== 'web') buildServer();
