// npm run doctor: replays every job and says what differs from what was stored.
import { runOnDatabase } from './withDatabase.mjs';

await runOnDatabase('doctor');
