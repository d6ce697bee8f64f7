import type { Context } from 'hono';
import { HTTPException } from 'hono/http-exception';
import { ConnectionError, ConnectionAcquireTimeoutError } from 'sequelize';
import type { ContentfulStatusCode } from 'hono/utils/http-status';
import { ChangedElsewhere, DoesNotFit, NotFound, NotReady, StepDoesNotFit, UnreadableFile } from './errors.ts';
import { PoolClosed, TookTooLong } from './workers/DesignPool.ts';

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
  return c.body(JSON.stringify(body), problem.status, { 'Content-Type': 'application/problem+json' });
}

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  const known = problemOf(error);
  if (known !== undefined) return known;
  if (error instanceof HTTPException) return new Problem(error.status, 'Request refused', error.message);
  if (error instanceof ConnectionError || error instanceof ConnectionAcquireTimeoutError || isLostConnection(error)) {
    return new Problem(503, 'The database does not answer', 'What was acknowledged is safe. Try again in a moment.');
  }
  console.error(error);
  return new Problem(500, 'Something went wrong here', 'It was written to the server log. Nothing of this request was stored.');
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
  if (error instanceof DoesNotFit) return new Problem(422, 'The request does not fit', error.message);
  if (error instanceof StepDoesNotFit) return new Problem(422, 'This step does not fit the job', error.message);
  if (error instanceof NotReady) return new Problem(422, 'Not ready to release', error.message);
  if (error instanceof UnreadableFile) {
    const { line, byte, found, expected } = error.problem;
    return new Problem(422, 'This file cannot be read', error.message, { file: error.fileName, line, byte, found, expected });
  }
  if (error instanceof TookTooLong)
    return new Problem(503, 'This took too long', `It was not done within ${error.seconds} s. Nothing was stored.`);
  if (error instanceof PoolClosed)
    return new Problem(503, 'The server is being shut down', 'What was acknowledged is safe. Try again in a moment.');
  return undefined;
}

/** A connection that broke while a query ran: the driver then says so by code, or by the administrator's shutdown (57P01…57P03). */
function isLostConnection(error: unknown): boolean {
  const { code } = (error as { parent?: { code?: string } }).parent ?? {};
  return (
    ['57P01', '57P02', '57P03', 'ECONNRESET', 'EPIPE', 'ECONNREFUSED'].includes(code ?? '') || /Connection terminated/.test(String(error))
  );
}
