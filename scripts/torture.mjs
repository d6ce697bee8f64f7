// npm run torture [kills | statements | disk | mutated | hostile | worst | load] [how many]: builds, then attacks the server.
import { runTyped } from './runTyped.mjs';

runTyped('torture/main.ts');
