import type { Context } from 'hono';
import { HTTPException } from 'hono/http-exception';
import { ConnectionError, ConnectionAcquireTimeoutError } from 'sequelize';
import type { FileProblem } from '@isola/core';
import type { ContentfulStatusCode } from 'hono/utils/http-status';

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

export function notFound(what: string): Problem {
  return new Problem(404, 'Not found', `There is no ${what}; it may have been deleted.`);
}

/** A file that cannot be read as stitches: what, where, and what was expected. */
export function unreadableFile(fileName: string, problem: FileProblem): Problem {
  const { line, byte, found, expected } = problem;
  return new Problem(422, 'This file cannot be read', `${fileName}: ${problem.message}`, { file: fileName, line, byte, found, expected });
}

/** The response to an error; one that is not expected is logged here and answered without detail. */
export function respondWithProblem(error: unknown, c: Context): Response {
  const problem = asProblem(error);
  const body = { type: 'about:blank', title: problem.title, status: problem.status, detail: problem.message, ...problem.extra };
  return c.body(JSON.stringify(body), problem.status, { 'Content-Type': 'application/problem+json' });
}

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  if (error instanceof HTTPException) return new Problem(error.status, 'Request refused', error.message);
  if (error instanceof ConnectionError || error instanceof ConnectionAcquireTimeoutError || isLostConnection(error)) {
    return new Problem(503, 'The database does not answer', 'What was acknowledged is safe. Try again in a moment.');
  }
  console.error(error);
  return new Problem(500, 'Something went wrong here', 'It was written to the server log. Nothing of this request was stored.');
}

/** A connection that broke while a query ran: the driver then says so by code, or by the administrator's shutdown (57P01…57P03). */
function isLostConnection(error: unknown): boolean {
  const { code } = (error as { parent?: { code?: string } }).parent ?? {};
  return (
    ['57P01', '57P02', '57P03', 'ECONNRESET', 'EPIPE', 'ECONNREFUSED'].includes(code ?? '') || /Connection terminated/.test(String(error))
  );
}
