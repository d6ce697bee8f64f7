// npm run soak [seconds each] [people | together | many]: builds, then has people work on the server for a bounded time.
import { runTyped } from './runTyped.mjs';

runTyped('torture/soakMain.ts');
