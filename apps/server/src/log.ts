import { pino } from 'pino';

/** `lines`: for who stands before the console; `json`: one object a line, requests too, for programs that gather them. */
const isJson = process.env['LOG'] === 'json';
const writer = pino(
  { base: { process: process.pid }, timestamp: pino.stdTimeFunctions.isoTime },
  pino.destination({ dest: 1, sync: false }),
);

/** What the server says of itself. */
export const log = {
  info(text: string, fields: Readonly<Record<string, unknown>> = {}): void {
    if (isJson) writer.info(fields, text);
    else console.log(text);
  },
  warn(text: string, error?: unknown): void {
    if (isJson) writer.warn({ err: error }, text);
    else console.warn(`${text}:`, error);
  },
  error(text: string, error: unknown): void {
    if (isJson) writer.error({ err: error }, text);
    else console.error(`${text}:`, error);
  },
  /** A request that was answered: for programs only. */
  request(fields: Readonly<Record<string, unknown>>): void {
    if (isJson) writer.info(fields, 'answered');
  },
};
