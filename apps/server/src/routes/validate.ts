import { zValidator } from '@hono/zod-validator';
import type { ValidationTargets } from 'hono';
import { z } from 'zod';
import { Problem } from '../problem.ts';

/** Checks a part of the request against a schema; what does not fit is answered with all that is wrong, by field. */
export function validate<S extends z.ZodType, T extends keyof ValidationTargets>(part: T, schema: S) {
  return zValidator(part, schema, (result) => {
    if (result.success) return;
    const errors = result.error.issues.map((issue) => ({ field: issue.path.join('.'), message: issue.message }));
    const first = errors[0];
    throw new Problem(
      422,
      'The request does not fit',
      first === undefined ? 'It could not be read.' : `${first.field || String(part)}: ${first.message}`,
      { errors },
    );
  });
}

export const JobId = z.object({ id: z.uuid() });
