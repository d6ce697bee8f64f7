import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import { MAX_FILE_BYTES } from '@isola/core';
import busboy from 'busboy';
import { Problem } from '../problem.ts';

/** A form with a file. */
export interface Upload {
  readonly fileName: string;
  readonly bytes: Buffer;
  readonly fields: Readonly<Record<string, string>>;
}

/** Fields are names and a target; no more of them than this, and none longer (bytes). */
const MOST_FIELDS = 20;
const LONGEST_FIELD = 64 * 1024;

/** The form that a request carries, taken apart as it comes in: as a whole it would hold up all other requests for a moment. */
export function readUpload(request: Request): Promise<Upload> {
  return new Promise((resolve, reject) => {
    const noForm = (): void =>
      reject(new Problem(400, 'The request does not fit', 'A file is sent as a form (multipart/form-data) with the field “file”.'));
    if (request.body === null) return noForm();
    let form: busboy.Busboy;
    try {
      const limits = { fileSize: MAX_FILE_BYTES + 1, files: 1, fields: MOST_FIELDS, fieldSize: LONGEST_FIELD };
      form = busboy({ headers: Object.fromEntries(request.headers), defParamCharset: 'utf8', limits });
    } catch {
      return noForm();
    }
    const fields: Record<string, string> = {};
    const pieces: Buffer[] = [];
    let fileName: string | undefined;
    form.on('field', (name, value) => (fields[name] = value));
    form.on('file', (name, stream, { filename }) => {
      if (name !== 'file') return stream.resume();
      fileName = filename;
      stream.on('data', (piece: Buffer) => pieces.push(piece));
    });
    form.once('error', noForm);
    form.once('close', () => {
      if (fileName === undefined) reject(new Problem(422, 'The request does not fit', 'There is no file in the field “file”.'));
      else resolve({ fileName, bytes: Buffer.concat(pieces), fields });
    });
    const body = Readable.fromWeb(request.body as ReadableStream);
    // The limit of the whole body speaks through the stream that it cuts off.
    body.once('error', (error) => reject(error instanceof Problem ? error : new Problem(400, 'The request does not fit', 'It broke off.')));
    body.pipe(form);
  });
}
