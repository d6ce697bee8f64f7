import { fail, type Result } from '../model/result.ts';
import { type FileProblem, problemAt, type ReadProgram } from './fileProblem.ts';
import { FORMAT_SIGNS, type FormatId, FORMATS } from './formats.ts';

/** The largest file that is taken, in bytes. */
export const MAX_FILE_BYTES = 32 * 1024 * 1024;

/** First bytes of kinds of file that people drop here by mistake. */
const FOREIGN: readonly (readonly [readonly number[], string])[] = [
  [[0x89, 0x50, 0x4e, 0x47], 'a PNG picture'],
  [[0xff, 0xd8, 0xff], 'a JPEG picture'],
  [[0x47, 0x49, 0x46, 0x38], 'a GIF picture'],
  [[0x25, 0x50, 0x44, 0x46], 'a PDF document'],
  [[0x50, 0x4b, 0x03, 0x04], 'a ZIP archive'],
  [[0x1f, 0x8b], 'a gzip archive'],
];

/** Reads a file of any known format, told by what stands in it and not by its name; what is no text is told first, and refused by what it is. Never throws on any bytes. */
export function readStitchFile(bytes: Uint8Array): Result<ReadProgram & { readonly kind: FormatId }, FileProblem> {
  if (bytes.length > MAX_FILE_BYTES) {
    return fail(problemAt({}, `${(bytes.length / 1048576).toFixed(1)} MB`, `no more than ${MAX_FILE_BYTES / 1048576} MB`));
  }
  if (bytes.length === 0) return fail(problemAt({ byte: 0 }, 'an empty file', FORMAT_SIGNS));
  const foreign = FOREIGN.find(([head]) => head.every((b, k) => bytes[k] === b));
  if (foreign !== undefined) return fail(problemAt({ byte: 0 }, foreign[1], FORMAT_SIGNS));
  const zero = bytes.indexOf(0);
  if (zero >= 0) return fail(problemAt({ byte: zero }, 'a zero byte, so this is no text', FORMAT_SIGNS));
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return fail(problemAt({ byte: findBadUtf8(bytes) }, 'a byte that is not UTF-8', 'UTF-8 text; save the file as UTF-8'));
  }
  const start = /[^\s\ufeff]/.exec(text);
  if (start === null) return fail(problemAt({ line: 1 }, 'only blank space', FORMAT_SIGNS));
  const rest = text.slice(start.index);
  const format = FORMATS.find(({ detect }) => detect(rest));
  if (format === undefined) return fail(problemAt({ line: 1 }, 'text of another kind', FORMAT_SIGNS));
  const read = format.read(text);
  return read.ok ? { ok: true, value: { ...read.value, kind: format.id } } : read;
}

/** The first byte that no valid UTF-8 sequence takes in (Unicode Standard, table 3-7). */
function findBadUtf8(bytes: Uint8Array): number {
  let i = 0;
  while (i < bytes.length) {
    const b = bytes[i]!;
    const length = b < 0x80 ? 1 : b >= 0xc2 && b < 0xe0 ? 2 : b >= 0xe0 && b < 0xf0 ? 3 : b >= 0xf0 && b < 0xf5 ? 4 : 0;
    if (length === 0) return i;
    for (let k = 1; k < length; k++) {
      const c = bytes[i + k] ?? 0;
      const low = k === 1 && b === 0xe0 ? 0xa0 : k === 1 && b === 0xf0 ? 0x90 : 0x80;
      const high = k === 1 && b === 0xed ? 0x9f : k === 1 && b === 0xf4 ? 0x8f : 0xbf;
      if (c < low || c > high) return i;
    }
    i += length;
  }
  return bytes.length;
}
