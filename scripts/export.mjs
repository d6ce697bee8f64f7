// npm run export [FOLDER]: all of the shop as open files.
import { runOnDatabase } from './withDatabase.mjs';

await runOnDatabase('export');
