import { ProgramBuilder } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { sayCount } from '../../words/sayCount.ts';
import { type FileProblem, MAX_COORDINATE, MAX_ROWS, noStitchProblem, problemAt, quote, type ReadProgram } from '../fileProblem.ts';
import { type LayoutAxis, type LayoutCommand, type MachineLayout, numberReader } from './machineLayout.ts';

/** What a layout's records were read as. */
export interface DecodedFile extends ReadProgram {
  readonly records: number;
  /** The byte at which each of the program's rows begins; −1 of rows that no record makes. */
  readonly byteOfRow: Int32Array;
}

/** A record as it was read: the byte that it begins at, how many bytes it takes, and what it says; places in mm. */
export interface TracedRecord {
  readonly at: number;
  readonly size: number;
  readonly command: LayoutCommand['command'];
  readonly x: number;
  readonly y: number;
}

/** The first records of a file, as far as they make sense, and the byte at which they stop doing so, where they do. */
export interface TracedFile {
  readonly records: readonly TracedRecord[];
  readonly problem: FileProblem | undefined;
  readonly read: DecodedFile | undefined;
}

/** Reads a machine's file like {@link decodeLayout}, and tells its first `most` records. */
export function traceLayout(bytes: Uint8Array, layout: MachineLayout, most: number): TracedFile {
  const records: TracedRecord[] = [];
  const read = decode(bytes, layout, (record) => records.length < most && records.push(record));
  return read.ok ? { records, problem: undefined, read: read.value } : { records, problem: read.error, read: undefined };
}

/** Threads of files that hold no colors: told apart, and plainly nobody's choice. */
const STAND_INS = ['#5f6f72', '#a07a4a', '#4f6f9a', '#8a5a72', '#5a8a5f', '#9a9a55'];

/** Reads a machine's file as its layout says. Never throws on any bytes; refused with the byte at which it stopped making sense. */
export function decodeLayout(bytes: Uint8Array, layout: MachineLayout): Result<DecodedFile, FileProblem> {
  return decode(bytes, layout);
}

function decode(bytes: Uint8Array, layout: MachineLayout, hear?: (record: TracedRecord) => void): Result<DecodedFile, FileProblem> {
  const { header, record, mmPerCount, yUp, end } = layout;
  if (bytes.length < header.length) {
    return fail(
      problemAt({ byte: bytes.length }, `${bytes.length} bytes in all`, `a header of ${header.length} bytes as in ${layout.name}`),
    );
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (const field of header.fields) {
    if (!('text' in field)) continue;
    const wanted = new TextEncoder().encode(field.text);
    if (wanted.some((byte, k) => bytes[field.at + k] !== byte)) {
      const found = String.fromCharCode(...bytes.subarray(field.at, field.at + wanted.length));
      return fail(problemAt({ byte: field.at }, quote(found), `${quote(field.text)}, by which ${layout.name} is known`));
    }
  }
  const said = (of: string): number | undefined => {
    const field = header.fields.find((one) => 'as' in one && one.of === of);
    return field !== undefined && 'as' in field ? numberReader(field.as)(view, field.at) : undefined;
  };
  const wanted = end === 'count' ? said('records') : undefined;
  const readX = axisReader(record.x);
  const readY = axisReader(record.y);
  const commands = record.commands.map((one) => ({ ...one, size: 'prefix' in one ? one.prefix.length : record.length }));
  const hasPrefixes = record.commands.some((one) => 'prefix' in one);

  const builder = new ProgramBuilder(Math.min(MAX_ROWS, Math.ceil((bytes.length - header.length) / record.length) + 2));
  const starts: number[] = [];
  const warnings: string[] = [];
  let [x, y, records, stitches, colors] = [0, 0, 0, 0, 0];
  /** The command that a prefix gave the next record. */
  let given: 'stitch' | 'jump' | undefined;
  let isEnded = false;
  let at = header.length;
  const entries = header.colors;
  const thread = (): string => {
    const n = colors++;
    if (entries === undefined) return STAND_INS[n % STAND_INS.length]!;
    const from = entries.at + 3 * Math.min(n, entries.max - 1);
    return `#${[0, 1, 2]
      .map((k) =>
        view
          .getUint8(from + k)
          .toString(16)
          .padStart(2, '0'),
      )
      .join('')}`;
  };
  builder.color(thread());
  starts.push(-1);

  while (!isEnded && (wanted === undefined ? at < bytes.length : records < wanted)) {
    const prefixed = hasPrefixes && given === undefined ? findPrefix(commands, bytes, at) : undefined;
    if (prefixed === undefined && at + record.length > bytes.length) {
      const left = bytes.length - at;
      const expected = `a whole record of ${record.length}${wanted === undefined ? '' : `, number ${sayCount(records + 1)} of ${sayCount(wanted)}`}`;
      return fail(problemAt({ byte: at }, left === 0 ? 'the end of the file' : `${left} ${left === 1 ? 'byte' : 'bytes'}`, expected));
    }
    if (builder.rowCount >= MAX_ROWS) return fail(problemAt({ byte: at }, `more than ${sayCount(MAX_ROWS)} rows`, 'a smaller file'));
    const found = prefixed ?? findCommand(commands, bytes, at, record.length, given, isInPlace);
    if (found === undefined) return fail(problemAt({ byte: at }, sayBytes(bytes, at, record.length), `a record of ${layout.name}`));
    const { command, count, size } = found;
    const from = at;
    at += size * count;
    records += count;
    if (prefixed !== undefined && (command === 'stitch' || command === 'jump')) {
      given = command;
      continue;
    }
    if (prefixed === undefined) {
      const [dx, dy] = [readX(bytes, view, from), readY(bytes, view, from)];
      x = record.x.relative ? x + dx : dx;
      y = record.y.relative ? y + dy : dy;
      given = undefined;
    }
    const [px, py] = [toMillimetres(x, mmPerCount), toMillimetres(yUp ? y : -y, mmPerCount)];
    if (Math.abs(px) > MAX_COORDINATE || Math.abs(py) > MAX_COORDINATE) {
      return fail(problemAt({ byte: from }, `a place at ${px}, ${py} mm`, `no more than ${MAX_COORDINATE} mm from the hoop's centre`));
    }
    hear?.({ at: from, size: size * count, command, x: px, y: py });
    if (command === 'stitch') {
      builder.stitch(px, py);
      stitches++;
    } else if (command === 'jump') builder.jump(px, py);
    else if (command === 'trim') builder.trim();
    else if (command === 'color') builder.color(thread());
    else if (command === 'stop') builder.stop();
    else {
      builder.end();
      isEnded = true;
    }
    starts.push(from);
  }

  if (!isEnded) {
    if (end === 'command') return fail(problemAt({ byte: at }, 'the end of the file', 'an end record; the file may be cut short'));
    builder.end();
    starts.push(-1);
  }
  if (at < bytes.length) warnings.push(`${sayCount(bytes.length - at)} bytes after its end were passed over.`);
  const counted = said('stitches');
  if (counted !== undefined && counted !== stitches)
    warnings.push(
      `The header says ${sayCount(counted)} stitches, and the records make ${sayCount(stitches)}: the file may have been altered.`,
    );
  if (entries === undefined) warnings.push(`${layout.name} holds no colors: the threads are stand-ins to be told.`);
  const program = builder.build();
  if (stitches === 0) return fail(noStitchProblem(program));
  return succeed({ program, warnings, records, byteOfRow: Int32Array.from(starts) });

  /** Whether a record says no move. */
  function isInPlace(from: number): boolean {
    const [dx, dy] = [readX(bytes, view, from), readY(bytes, view, from)];
    return (record.x.relative ? dx === 0 : dx === x) && (record.y.relative ? dy === 0 : dy === y);
  }
}

/** Counts as mm, to a millionth: what a count is need not be a sum of halves. */
export const toMillimetres = (counts: number, mmPerCount: number): number => Math.round(counts * mmPerCount * 1e6) / 1e6 + 0;

type Sized = LayoutCommand & { readonly size: number };
interface FoundCommand {
  readonly command: LayoutCommand['command'];
  /** Of records that are one command. */
  readonly count: number;
  readonly size: number;
}

function findPrefix(commands: readonly Sized[], bytes: Uint8Array, at: number): FoundCommand | undefined {
  const one = commands.find((each) => 'prefix' in each && each.prefix.every((byte, k) => bytes[at + k] === byte));
  return one && { command: one.command, count: 1, size: one.size };
}

function findCommand(
  commands: readonly Sized[],
  bytes: Uint8Array,
  at: number,
  length: number,
  given: 'stitch' | 'jump' | undefined,
  isInPlace: (from: number) => boolean,
): FoundCommand | undefined {
  if (given !== undefined) return { command: given, count: 1, size: length };
  for (const one of commands) {
    if ('prefix' in one || (bytes[at + one.byte]! & one.mask) !== one.value) continue;
    const count = one.repeat ?? 1;
    let isAll = true;
    for (let k = 0; k < count && count > 1 && isAll; k++) {
      const from = at + k * length;
      isAll = from + length <= bytes.length && (bytes[from + one.byte]! & one.mask) === one.value && isInPlace(from);
    }
    if (isAll) return { command: one.command, count, size: length };
  }
  return undefined;
}

/** Reads an axis of the record that begins at a byte, in counts. */
function axisReader(axis: LayoutAxis): (bytes: Uint8Array, view: DataView, at: number) => number {
  if (!('bits' in axis)) {
    const read = numberReader(axis.as);
    return (_, view, at) => read(view, at + axis.at);
  }
  const tables = new Map<number, Int32Array>();
  for (const { byte, bit, weight } of axis.bits) {
    const table = tables.get(byte) ?? new Int32Array(256);
    for (let value = 0; value < 256; value++) if ((value & (1 << bit)) !== 0) table[value]! += weight;
    tables.set(byte, table);
  }
  const parts = [...tables];
  return (bytes, _, at) => {
    let sum = 0;
    for (const [byte, table] of parts) sum += table[bytes[at + byte]!]!;
    return sum;
  };
}

function sayBytes(bytes: Uint8Array, at: number, length: number): string {
  return [...bytes.subarray(at, at + length)].map((byte) => byte.toString(16).padStart(2, '0')).join(' ');
}
