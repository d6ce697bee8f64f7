import { test } from '@jest/globals';
import { IS_GUARD } from '../../../../packages/core/src/testing/runs.ts';

/** A test that takes too long for a commit: `npm run guard` has it. Another one of its kind runs on each commit. */
export const guardTest = IS_GUARD ? test : test.skip;
