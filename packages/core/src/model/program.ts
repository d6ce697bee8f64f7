import { remember } from './remember.ts';

/** What the machine can be told to do, in the order of the codes kept in {@link Program.command}. */
export const COMMANDS = ['stitch', 'jump', 'trim', 'color', 'stop', 'end'] as const;
export type Command = (typeof COMMANDS)[number];

export const STITCH = 0;
export const JUMP = 1;
export const TRIM = 2;
export const COLOR = 3;
export const STOP = 4;
export const END = 5;

/** A thread as a program names it: its color as #rrggbb in small letters, and a name that may be empty. */
export interface ProgramThread {
  readonly color: string;
  readonly name: string;
}

/** What a program is sewn with before its first color row. */
export const UNNAMED_THREAD: ProgramThread = { color: '#4a4f52', name: '' };

/**
 * A machine's rows in sewing order, as columns.
 *
 * `x` and `y` are absolute, in mm, y up. A row without a place of its own (trim, color, stop, end) holds the place where the needle is, so
 * that neighbours can be read without searching; it is 0, 0 before the first move. `threads[k]` is what the k-th color row puts on. `notes`
 * has the text of rows that carry one, color rows excepted: theirs is the thread's name. Never changed once built.
 */
export interface Program {
  readonly rowCount: number;
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly command: Uint8Array;
  readonly threads: readonly ProgramThread[];
  readonly notes: ReadonlyMap<number, string>;
}

/** One row as a value, for edits and files. `x` and `y` (mm) stand at stitches and jumps only, `color` at colors only. */
export interface Row {
  readonly command: Command;
  readonly x?: number;
  readonly y?: number;
  readonly color?: string;
  readonly note?: string;
}

/** Collects rows into columns that grow by doubling, then hands them over once with `build`. */
export class ProgramBuilder {
  private x: Float64Array;
  private y: Float64Array;
  private command: Uint8Array;
  private count = 0;
  private readonly threads: ProgramThread[] = [];
  private readonly notes = new Map<number, string>();

  constructor(expectedRows = 1024) {
    const size = Math.max(16, expectedRows);
    this.x = new Float64Array(size);
    this.y = new Float64Array(size);
    this.command = new Uint8Array(size);
  }

  /** The color of the thread that is on, as #rrggbb; none before the first color row. */
  get thread(): string | undefined {
    return this.threads[this.threads.length - 1]?.color;
  }

  get rowCount(): number {
    return this.count;
  }

  stitch(x: number, y: number, note = ''): this {
    return this.push(STITCH, x, y, note);
  }

  jump(x: number, y: number, note = ''): this {
    return this.push(JUMP, x, y, note);
  }

  trim(note = ''): this {
    return this.pushInPlace(TRIM, note);
  }

  stop(note = ''): this {
    return this.pushInPlace(STOP, note);
  }

  end(note = ''): this {
    return this.pushInPlace(END, note);
  }

  /** Puts a thread on; the color must be #rrggbb already. */
  color(color: string, name = ''): this {
    this.threads.push({ color: color.toLowerCase(), name });
    return this.pushInPlace(COLOR, '');
  }

  row(row: Row): this {
    const note = row.note ?? '';
    switch (row.command) {
      case 'stitch':
        return this.stitch(row.x ?? NaN, row.y ?? NaN, note);
      case 'jump':
        return this.jump(row.x ?? NaN, row.y ?? NaN, note);
      case 'trim':
        return this.trim(note);
      case 'color':
        return this.color(row.color ?? UNNAMED_THREAD.color, note);
      case 'stop':
        return this.stop(note);
      case 'end':
        return this.end(note);
    }
  }

  /** Copies the rows `from` ≤ row < `to` of a program whose color rows before `from` number `colorsBefore`. */
  copy(program: Program, from: number, to: number, colorsBefore = colorsBeforeRow(program, from)): this {
    const count = to - from;
    if (count <= 0) return this;
    while (this.count + count > this.command.length) this.grow();
    const at = this.count;
    this.x.set(program.x.subarray(from, to), at);
    this.y.set(program.y.subarray(from, to), at);
    this.command.set(program.command.subarray(from, to), at);
    // Rows without a place of their own hold the needle's, which is another one here.
    for (let k = at; k < at + count && this.command[k]! > JUMP; k++) {
      this.x[k] = k === 0 ? 0 : this.x[k - 1]!;
      this.y[k] = k === 0 ? 0 : this.y[k - 1]!;
    }
    if (program.threads.length > colorsBefore) {
      const colors = colorRowsOf(program);
      for (let k = colorsBefore; k < colors.length && colors[k]! < to; k++) this.threads.push(program.threads[k]!);
    }
    if (program.notes.size > 0) {
      if (program.notes.size < count) {
        for (const [row, note] of program.notes) if (row >= from && row < to) this.notes.set(row - from + at, note);
      } else
        for (let row = from; row < to; row++) {
          const note = program.notes.get(row);
          if (note !== undefined) this.notes.set(row - from + at, note);
        }
    }
    this.count += count;
    return this;
  }

  /** Where the needle is after the last row, or after the row `back` before it; 0, 0 before all rows. */
  placeAt(back = 0): { readonly x: number; readonly y: number } {
    const row = this.count - 1 - back;
    return row < 0 ? { x: 0, y: 0 } : { x: this.x[row]!, y: this.y[row]! };
  }

  /** What the last row is, or the row `back` before it; −1 where there is none. */
  commandAt(back = 0): number {
    const row = this.count - 1 - back;
    return row < 0 ? -1 : this.command[row]!;
  }

  build(): Program {
    return {
      rowCount: this.count,
      x: this.x.slice(0, this.count),
      y: this.y.slice(0, this.count),
      command: this.command.slice(0, this.count),
      threads: this.threads,
      notes: this.notes,
    };
  }

  private pushInPlace(command: number, note: string): this {
    const last = this.count - 1;
    return this.push(command, last < 0 ? 0 : this.x[last]!, last < 0 ? 0 : this.y[last]!, note);
  }

  private push(command: number, x: number, y: number, note: string): this {
    if (this.count === this.command.length) this.grow();
    this.x[this.count] = x;
    this.y[this.count] = y;
    this.command[this.count] = command;
    if (note !== '') this.notes.set(this.count, note);
    this.count++;
    return this;
  }

  private grow(): void {
    const size = this.command.length * 2;
    const x = new Float64Array(size);
    const y = new Float64Array(size);
    const command = new Uint8Array(size);
    x.set(this.x);
    y.set(this.y);
    command.set(this.command);
    this.x = x;
    this.y = y;
    this.command = command;
  }
}

/** Row `index` as a value. */
export function rowAt(program: Program, index: number): Row {
  const command = COMMANDS[program.command[index]!]!;
  if (command === 'color') {
    const thread = program.threads[colorsBeforeRow(program, index)]!;
    return thread.name === '' ? { command, color: thread.color } : { command, color: thread.color, note: thread.name };
  }
  const note = program.notes.get(index);
  const noted = note === undefined ? {} : { note };
  if (command === 'stitch' || command === 'jump') return { command, x: program.x[index]!, y: program.y[index]!, ...noted };
  return { command, ...noted };
}

/** The rows of a program that put a thread on, ascending. */
export const colorRowsOf = remember(({ command }: Program): Int32Array => {
  const rows: number[] = [];
  for (let i = 0; i < command.length; i++) if (command[i] === COLOR) rows.push(i);
  return Int32Array.from(rows);
});

/** How many color rows stand before row `index`. O(log colors) once a program was asked. */
export function colorsBeforeRow(program: Program, index: number): number {
  const rows = colorRowsOf(program);
  let low = 0;
  let high = rows.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (rows[middle]! < index) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Whether two programs have the same rows: commands, places to the last bit, threads and notes. */
export function isSameProgram(a: Program, b: Program): boolean {
  if (a.rowCount !== b.rowCount || a.threads.length !== b.threads.length || a.notes.size !== b.notes.size) return false;
  for (let i = 0; i < a.rowCount; i++) {
    if (a.command[i] !== b.command[i]) return false;
    if (!Object.is(a.x[i]! + 0, b.x[i]! + 0) || !Object.is(a.y[i]! + 0, b.y[i]! + 0)) return false;
  }
  if (!a.threads.every((t, k) => t.color === b.threads[k]!.color && t.name === b.threads[k]!.name)) return false;
  for (const [row, note] of a.notes) if (b.notes.get(row) !== note) return false;
  return true;
}
