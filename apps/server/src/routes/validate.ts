import { zValidator } from '@hono/zod-validator';
import type { ValidationTargets } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { z } from 'zod';
import { Problem } from '../problem.ts';

/** Checks a part of the request against a schema; what does not fit is answered with all that is wrong, by field. */
export function validate<S extends z.ZodType, T extends keyof ValidationTargets>(part: T, schema: S) {
  const checked = schema.superRefine((value, context) => {
    const wrong = findWrongText(value);
    if (wrong !== undefined)
      context.addIssue({ code: 'custom', path: wrong, message: 'text that cannot be stored (NUL, or half a character)' });
  });
  return zValidator(part, checked, (result) => {
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

/** Turns a body over `maxSize` bytes away, before it is read where its length is said, and as soon as it is reached where not. */
export function limitBody(maxSize: number, title: string, text: string) {
  return bodyLimit({
    maxSize,
    onError: () => {
      throw new Problem(413, title, text);
    },
  });
}

/** Where in a value there is text that no database takes; nothing where all of it is well-formed. */
export function findWrongText(value: unknown): (string | number)[] | undefined {
  if (typeof value === 'string') return isText(value) ? undefined : [];
  if (typeof value !== 'object' || value === null) return undefined;
  for (const [key, inner] of Object.entries(value)) {
    const wrong = isText(key) ? findWrongText(inner) : [];
    if (wrong !== undefined) return [isText(key) ? key : '?', ...wrong];
  }
  return undefined;
}

/** A half of a character of two: it belongs to no encoding. */
const HALF = /\p{Surrogate}/u;
const isText = (text: string): boolean => !text.includes('\0') && !HALF.test(text);

export const JobId = z.object({ id: z.uuid({ error: 'no job has such an id' }) });
export const RevisionNumber = JobId.extend({ number: z.coerce.number().int().positive() });
