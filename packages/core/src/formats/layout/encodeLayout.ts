import { COLOR, type Command, COMMANDS, JUMP, type Program, STITCH, UNNAMED_THREAD } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { sayCount } from '../../words/sayCount.ts';
import { sumsOf } from './bitSums.ts';
import { axisRange } from './checkLayout.ts';
import { decodeLayout, toMillimetres } from './decodeLayout.ts';
import { type LayoutAxis, type LayoutCommand, type MachineLayout, putNumber, rangeOf } from './machineLayout.ts';

/** A program as a machine's file, with what could not be said in it or had to be said otherwise. */
export interface EncodedFile {
  readonly bytes: Uint8Array;
  readonly records: number;
  readonly notes: readonly string[];
}

/**
 * Writes a program as a layout says. Places are rounded to counts where they are, so that no rounding adds up; long moves are parted. Refused with the row where the
 * layout cannot say what the machine has to know. What was written is read again before it is given away: a layout that reads otherwise than it writes is refused, too.
 */
export function encodeLayout(program: Program, layout: MachineLayout, name = ''): Result<EncodedFile, string> {
  const writer = new RecordWriter(layout);
  const notes: string[] = [];
  const counts = { stitches: 0, trims: 0, parted: 0, inPlace: 0, namesLost: 0 };
  const { x, y, command, rowCount, threads } = program;
  const isFirstColor = command[0] === COLOR;
  const put = isFirstColor ? threads : [UNNAMED_THREAD, ...threads];
  const colorAs: Command | undefined = writer.has('color') ? 'color' : writer.has('stop') ? 'stop' : undefined;
  const isJumpRepeated = writer.isRepeated('jump');
  const expected: Command[] = ['color'];
  let lost: string | undefined;
  for (let row = 0; row < rowCount && lost === undefined; row++) {
    const what = COMMANDS[command[row]!]!;
    if (program.notes.has(row)) counts.namesLost++;
    if (command[row] === STITCH || command[row] === JUMP) {
      const to = writer.countsOf(x[row]!, y[row]!);
      if (command[row] === JUMP && writer.isHere(to) && isJumpRepeated) {
        counts.inPlace++;
        continue;
      }
      const parts = writer.partsTo(to);
      counts.parted += parts.length > 1 ? 1 : 0;
      for (const [k, part] of parts.entries()) {
        const as = k < parts.length - 1 ? layout.longMove : what;
        lost ??= writer.move(as, part, row);
        expected.push(as);
        if (as === 'stitch') counts.stitches++;
      }
    } else if (what === 'color') {
      if (row === 0) continue;
      if (colorAs === undefined) lost = `Row ${row}: a color change, and ${layout.name} has neither a color nor a stop.`;
      else {
        writer.stay(colorAs);
        expected.push(colorAs);
      }
    } else if (what === 'trim' && !writer.has('trim')) counts.trims++;
    else if (what === 'stop' && !writer.has('stop')) lost = `Row ${row}: a stop for the operator, and ${layout.name} has none.`;
    else if (what !== 'end' || writer.has('end')) {
      writer.stay(what);
      expected.push(what);
    }
  }
  if (lost !== undefined) return fail(lost);
  if (layout.end === 'command' && expected.at(-1) !== 'end') {
    writer.stay('end');
    expected.push('end');
  } else if (!writer.has('end')) expected.push('end');
  if (counts.stitches === 0) return fail('There is no stitch in it.');
  const bytes = writer.finish(
    counts.stitches,
    put.map(({ color }) => color),
    name,
  );
  if (typeof bytes === 'string') return fail(bytes);

  const is = (n: number): string => (n === 1 ? 'is' : 'are');
  if (counts.trims > 0)
    notes.push(
      `${many(counts.trims, 'trim')} ${is(counts.trims)} left out: ${layout.name} has none, and the threads between have to be cut by hand.`,
    );
  if (colorAs === 'stop' && put.length > 1) notes.push(`${many(put.length - 1, 'color change')} ${is(put.length - 1)} written as stops.`);
  if (counts.parted > 0) notes.push(`${many(counts.parted, 'move')} over ${layout.longest} mm ${is(counts.parted)} parted.`);
  if (counts.inPlace > 0)
    notes.push(`${many(counts.inPlace, 'jump')} in place ${is(counts.inPlace)} left out: that would read as something else.`);
  if (counts.namesLost > 0) notes.push('What was noted for the operator is not in the file: it stands on the production sheet.');
  const table = layout.header.colors;
  if (table === undefined) notes.push('The file holds no colors: the threads stand on the production sheet.');
  else if (put.length > table.max) notes.push(`Of ${put.length} threads the file holds the first ${table.max}.`);
  const again = checkAgain(bytes, layout, expected);
  return again === undefined ? succeed({ bytes, records: writer.records, notes }) : fail(again);
}

const many = (n: number, what: string): string => `${sayCount(n)} ${what}${n === 1 ? '' : 's'}`;

/** Why what was written does not read as what it was written from; none where it does. */
function checkAgain(bytes: Uint8Array, layout: MachineLayout, expected: readonly Command[]): string | undefined {
  const read = decodeLayout(bytes, layout);
  if (!read.ok) return `${layout.name} does not read what it writes. ${read.error.message}`;
  const { command } = read.value.program;
  const wrong = expected.findIndex((wanted, k) => COMMANDS[command[k] ?? -1] !== wanted);
  if (wrong < 0 && command.length === expected.length) return undefined;
  const at = wrong < 0 ? expected.length : wrong;
  const byte = read.value.byteOfRow[at] ?? -1;
  return `${layout.name} does not read as it writes: a ${expected[at] ?? 'last record'} reads as a ${COMMANDS[command[at] ?? -1] ?? 'nothing'}${byte < 0 ? '' : ` (byte ${byte})`}. Tell its commands apart.`;
}

interface Counts {
  readonly x: number;
  readonly y: number;
}

/** Records on their way into a file. */
class RecordWriter {
  records = 0;
  private readonly layout: MachineLayout;
  private bytes = new Uint8Array(1 << 16);
  private length: number;
  private at: Counts = { x: 0, y: 0 };
  private readonly extents = { minX: Infinity, maxX: -Infinity, minY: Infinity, maxY: -Infinity };
  private readonly most: number;
  private readonly putX: (record: DataView, counts: number) => boolean;
  private readonly putY: (record: DataView, counts: number) => boolean;
  private readonly byCommand: ReadonlyMap<string, LayoutCommand>;

  constructor(layout: MachineLayout) {
    this.layout = layout;
    this.length = layout.header.length;
    this.most = Math.max(1, Math.floor(layout.longest / layout.mmPerCount + 1e-9));
    this.putX = axisWriter(layout.record.x);
    this.putY = axisWriter(layout.record.y);
    this.byCommand = new Map([...layout.record.commands].reverse().map((one) => [one.command, one]));
  }

  has(command: Command): boolean {
    return this.byCommand.has(command);
  }

  /** Whether records of such a command, repeated in place, are another one. */
  isRepeated(command: Command): boolean {
    const one = this.byCommand.get(command);
    if (one === undefined || 'prefix' in one) return false;
    return this.layout.record.commands.some(
      (other) => !('prefix' in other) && other.repeat !== undefined && (one.value & other.mask) === other.value,
    );
  }

  countsOf(x: number, y: number): Counts {
    const { mmPerCount, yUp } = this.layout;
    return { x: Math.round(x / mmPerCount) + 0, y: Math.round((yUp ? y : -y) / mmPerCount) + 0 };
  }

  isHere({ x, y }: Counts): boolean {
    return x === this.at.x && y === this.at.y;
  }

  /** The places of records that lead to a place, none farther than the longest move. */
  partsTo(to: Counts): Counts[] {
    const [dx, dy] = [to.x - this.at.x, to.y - this.at.y];
    const n = Math.max(1, Math.ceil(Math.max(Math.abs(dx), Math.abs(dy)) / this.most));
    return Array.from({ length: n }, (_, k) => ({
      x: this.at.x + Math.round((dx * (k + 1)) / n),
      y: this.at.y + Math.round((dy * (k + 1)) / n),
    }));
  }

  /** Writes a move; gives why it cannot be. */
  move(command: Command, to: Counts, row: number): string | undefined {
    const one = this.byCommand.get(command);
    if (one === undefined) return `Row ${row}: a ${command}, and ${this.layout.name} has none.`;
    if ('prefix' in one) this.raw(one.prefix);
    const isWritten = this.record(to, 'prefix' in one ? undefined : one);
    if (!isWritten) {
      const place = `${toMillimetres(to.x, this.layout.mmPerCount)}, ${toMillimetres(this.layout.yUp ? to.y : -to.y, this.layout.mmPerCount)} mm`;
      return `Row ${row}: a place at ${place}, which the numbers of ${this.layout.name} do not reach.`;
    }
    this.at = to;
    const { extents } = this;
    [extents.minX, extents.maxX] = [Math.min(extents.minX, to.x), Math.max(extents.maxX, to.x)];
    [extents.minY, extents.maxY] = [Math.min(extents.minY, to.y), Math.max(extents.maxY, to.y)];
    return undefined;
  }

  /** Writes a command that moves nothing. */
  stay(command: Command): void {
    const one = this.byCommand.get(command)!;
    if ('prefix' in one) this.raw(one.prefix);
    else for (let k = 0; k < (one.repeat ?? 1); k++) this.record(this.at, one);
  }

  private raw(bytes: readonly number[]): void {
    this.room(bytes.length).set(bytes);
    this.records++;
  }

  private record(to: Counts, command: Exclude<LayoutCommand, { prefix: unknown }> | undefined): boolean {
    const { x, y, length } = this.layout.record;
    const target = this.room(length);
    const view = new DataView(target.buffer, target.byteOffset, length);
    this.records++;
    const isIn = this.putX(view, x.relative ? to.x - this.at.x : to.x) && this.putY(view, y.relative ? to.y - this.at.y : to.y);
    if (command !== undefined) target[command.byte] = (target[command.byte]! & ~command.mask) | command.value;
    return isIn;
  }

  private room(length: number): Uint8Array {
    if (this.length + length > this.bytes.length) {
      const larger = new Uint8Array(Math.max(this.bytes.length * 2, this.length + length));
      larger.set(this.bytes);
      this.bytes = larger;
    }
    this.length += length;
    return this.bytes.subarray(this.length - length, this.length);
  }

  /** The file; or which of the header's numbers cannot hold what it is to say. */
  finish(stitches: number, colors: readonly string[], name: string): Uint8Array | string {
    const { header } = this.layout;
    this.bytes.fill(header.fill, 0, header.length);
    const view = new DataView(this.bytes.buffer);
    const values: Record<string, number> = { stitches, records: this.records, colors: colors.length, ...this.extents };
    for (const field of header.fields) {
      if ('text' in field) this.bytes.set(new TextEncoder().encode(field.text), field.at);
      else if ('as' in field) {
        const [value, [least, most]] = [values[field.of]!, rangeOf(field.as)];
        if (value < least || value > most)
          return `The header's ${field.of} is a number from ${least} to ${sayCount(most)}, and would have to say ${sayCount(value)}.`;
        putNumber(view, field.at, field.as, value);
      } else this.bytes.set(new TextEncoder().encode(name).subarray(0, field.length), field.at);
    }
    const table = header.colors;
    if (table !== undefined)
      colors.slice(0, table.max).forEach((color, n) => {
        for (let k = 0; k < 3; k++) view.setUint8(table.at + 3 * n + k, Number.parseInt(color.slice(1 + 2 * k, 3 + 2 * k), 16));
      });
    return this.bytes.slice(0, this.length);
  }
}

/** Puts counts into a record's axis; false where they are more than it holds. */
function axisWriter(axis: LayoutAxis): (record: DataView, counts: number) => boolean {
  const [least, most] = axisRange(axis);
  if (!('bits' in axis)) {
    return (record, counts) => {
      if (counts < least || counts > most) return false;
      putNumber(record, axis.at, axis.as, counts);
      return true;
    };
  }
  const sums = sumsOf(axis.bits);
  return (record, counts) => {
    const mask = sums.get(counts);
    if (mask === undefined) return false;
    axis.bits.forEach(({ byte, bit }, k) => {
      if ((mask & (1 << k)) !== 0) record.setUint8(byte, record.getUint8(byte) | (1 << bit));
    });
    return true;
  };
}
