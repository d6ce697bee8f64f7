// npm run owner: prints a link by which an owner of the shop is let in.
import { runOnDatabase } from './withDatabase.mjs';

await runOnDatabase('owner');
