import type { Context } from 'hono';
import { HTTPException } from 'hono/http-exception';
import { ConnectionError, ConnectionAcquireTimeoutError, UniqueConstraintError } from 'sequelize';
import type { ContentfulStatusCode } from 'hono/utils/http-status';
import {
  ChangedElsewhere,
  DoesNotFit,
  NotAllowed,
  NotFound,
  NotReady,
  NotSigned,
  NoRoom,
  StepDoesNotFit,
  TooOften,
  UnreadableFile,
} from './errors.ts';
import { log } from './log.ts';
import { Busy, GivenUp, PoolClosed, TookTooLong, TookTooMuch, WorkerDied } from './workers/poolErrors.ts';

/** An error that is said to the client as problem details (RFC 9457). `extra` fields are said with it. */
export class Problem extends Error {
  readonly status: ContentfulStatusCode;
  readonly title: string;
  readonly extra: Readonly<Record<string, unknown>>;

  constructor(status: ContentfulStatusCode, title: string, detail: string, extra: Readonly<Record<string, unknown>> = {}) {
    super(detail);
    this.status = status;
    this.title = title;
    this.extra = extra;
  }
}

/** The response to an error; one that is not expected is logged here and answered without detail. */
export function respondWithProblem(error: unknown, c: Context): Response {
  const problem = asProblem(error);
  const body = { type: 'about:blank', title: problem.title, status: problem.status, detail: problem.message, ...problem.extra };
  const again = problem.extra['retryAfter'];
  const headers: Record<string, string> = typeof again === 'number' ? { 'Retry-After': String(again) } : {};
  return c.body(JSON.stringify(body), problem.status, { 'Content-Type': 'application/problem+json', ...headers });
}

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  const known = problemOf(error);
  if (known !== undefined) return known;
  if (error instanceof HTTPException) return new Problem(error.status, 'Request refused', error.message);
  const stored = problemOfDatabase(error);
  if (stored !== undefined) return stored;
  log.error('a request failed', error);
  return new Problem(500, 'Something went wrong here', 'It was written to the server log. Load the page again to see what is stored.');
}

/** How what services throw is answered. */
function problemOf(error: unknown): Problem | undefined {
  if (error instanceof NotFound) return new Problem(404, 'Not found', error.message);
  if (error instanceof ChangedElsewhere)
    return new Problem(
      409,
      'Changed elsewhere',
      error.message,
      error.version === undefined ? {} : { version: error.version, known: error.known },
    );
  if (error instanceof NotAllowed) return new Problem(403, 'Not let in', error.message);
  if (error instanceof TooOften) return new Problem(429, 'Too many tries', error.message, { retryAfter: error.seconds });
  if (error instanceof NoRoom) return new Problem(507, 'No room for more files', error.message);
  if (error instanceof DoesNotFit) return new Problem(422, 'The request does not fit', error.message);
  if (error instanceof StepDoesNotFit) return new Problem(422, 'This step does not fit the job', error.message);
  if (error instanceof NotReady) return new Problem(422, 'Not ready to release', error.message);
  if (error instanceof NotSigned) return new Problem(422, 'Not signed for', error.message);
  if (error instanceof UnreadableFile) {
    const { line, byte, found, expected } = error.problem;
    return new Problem(422, 'This file cannot be read', error.message, { file: error.fileName, line, byte, found, expected });
  }
  if (error instanceof TookTooLong)
    return new Problem(503, 'This took too long', `It was not done within ${error.seconds} s. Nothing was stored.`);
  if (error instanceof TookTooMuch)
    return new Problem(
      413,
      'This is too large to work with',
      `It takes more than the ${error.megabytes} MB that one design may take. Nothing was stored.`,
    );
  if (error instanceof Busy)
    return new Problem(503, 'The server has too much to do', `Try again in ${error.again} seconds.`, { retryAfter: error.again });
  if (error instanceof WorkerDied)
    return new Problem(503, 'The computation was ended', 'Its process ended, and is started again. Nothing was stored. Try again.', {
      retryAfter: 1,
    });
  if (error instanceof GivenUp) return new Problem(499 as ContentfulStatusCode, 'Given up', 'Nothing was stored.');
  if (error instanceof PoolClosed)
    return new Problem(503, 'The server is being shut down', 'What was acknowledged is safe. Try again in a moment.');
  return undefined;
}

/** What the database says, by its own codes (PostgreSQL, appendix A), where it is no fault of this program. */
function problemOfDatabase(error: unknown): Problem | undefined {
  const again = { retryAfter: 2 };
  if (error instanceof ConnectionError || error instanceof ConnectionAcquireTimeoutError || isLostConnection(error)) {
    const text = 'What was acknowledged is safe; whether this request was stored is not known, and it can be sent again.';
    return new Problem(503, 'The database does not answer', text, again);
  }
  if (error instanceof UniqueConstraintError)
    return new Problem(409, 'Stored already', 'Another request stored this at the same time. Load the page again to see it.');
  switch (codeOf(error)) {
    case '53100':
      return new Problem(
        507,
        'The disk is full',
        'Nothing of this request was stored. Make room on the disk of this machine, then try again.',
      );
    case '53200':
    case '53300':
    case '55P03':
    case '57014':
    case '40P01':
      return new Problem(503, 'The database has too much to do', 'Nothing of this request was stored. Try again in a moment.', again);
    case '22001':
    case '22003':
    case '22007':
    case '22008':
    case '22021':
    case '22P02':
    case '22P05':
      return new Problem(422, 'The request does not fit', 'A value in it cannot be stored: a date out of range, or text that is none.');
    default:
      return undefined;
  }
}

function codeOf(error: unknown): string {
  const { parent, code } = error as { parent?: { code?: string }; code?: string };
  return parent?.code ?? code ?? '';
}

/** A connection that broke while a query ran: the driver then says so by code, or by the administrator's shutdown (57P01…57P03). */
function isLostConnection(error: unknown): boolean {
  return (
    ['57P01', '57P02', '57P03', 'ECONNRESET', 'EPIPE', 'ECONNREFUSED'].includes(codeOf(error)) ||
    /Connection terminated|not queryable|timeout expired|Query read timeout/.test(String(error))
  );
}
