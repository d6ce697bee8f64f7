import { COLOR, type Program, STITCH, type ThreadTurn, TRIM } from '@isola/core';
import { rowsDone } from '../../stores/rowsDone.ts';

/** Where a machine stands and what it waits for. Times in seconds of the run. */
export interface Halt {
  readonly kind: 'stop' | 'break' | 'refused' | 'end';
  readonly at: number;
  /** Where it goes on from once the operator says so. */
  readonly onAt: number;
  /** For who stands before it. */
  readonly words: string;
}

export interface MachineState {
  readonly time: number;
  /** How many of the halts of the file it has passed. */
  readonly passed: number;
  readonly waits: Halt | undefined;
  readonly breaks: number;
}

interface Run {
  readonly stops: readonly { readonly row: number; readonly note: string }[];
  readonly refused: readonly { readonly row: number; readonly why: string }[];
  /** Seconds at which each row of its program is done. */
  readonly done: Float64Array;
}

/** After a break it goes back so many stitches, so that the new thread lies on the old. Common practice. */
const BACK = 8;

export const AT_START: MachineState = { time: 0, passed: 0, waits: undefined, breaks: 0 };

/** Where a file makes a machine halt, in the order of the run: at stops, at the first thing that it refuses, or at its end. */
export function haltsOf({ stops, refused, done }: Run): Halt[] {
  const last = refused.filter(({ row }) => row >= 0).reduce((first, { row }) => Math.min(first, row), Infinity);
  const before = (row: number): number => done[row - 1] ?? 0;
  const halts = stops
    .filter(({ row }) => row < last)
    .map(({ row, note }): Halt => ({
      kind: 'stop',
      at: before(row),
      onAt: done[row]!,
      words: note === '' ? 'The file says nothing of it.' : note,
    }));
  const why = refused.find(({ row }) => row === last) ?? (last === Infinity ? refused.find(({ row }) => row < 0) : undefined);
  if (why !== undefined) {
    const at = last === Infinity ? 0 : before(last);
    return [...(last === Infinity ? [] : halts), { kind: 'refused', at, onAt: at, words: why.why }];
  }
  const end = done.at(-1) ?? 0;
  return [...halts, { kind: 'end', at: end, onAt: end, words: 'The piece is sewn.' }];
}

/** The machine after so many seconds more: it halts where it has to. */
export function sewOn(state: MachineState, halts: readonly Halt[], seconds: number): MachineState {
  if (state.waits !== undefined) return state;
  const next = halts[state.passed];
  const time = state.time + seconds;
  if (next === undefined || time < next.at) return { ...state, time };
  return { ...state, time: next.at, waits: next };
}

/** The operator did what it waited for. What it refused, and its end, it does not go on from. */
export function goOn(state: MachineState): MachineState {
  const { waits } = state;
  if (waits === undefined || waits.kind === 'refused' || waits.kind === 'end') return state;
  const passed = waits.kind === 'stop' ? state.passed + 1 : state.passed;
  return { ...state, time: waits.onAt, passed, waits: undefined };
}

/** The thread breaks where it sews: after it is threaded again it goes back some stitches, but not over a cut. */
export function breakThread(state: MachineState, { command }: Pick<Program, 'command'>, done: Float64Array): MachineState {
  if (state.waits !== undefined) return state;
  const row = rowsDone(done, state.time) - 1;
  let [back, stitches] = [row, 0];
  while (back > 0 && stitches < BACK && command[back] !== TRIM && command[back] !== COLOR) {
    if (command[back] === STITCH) stitches++;
    back--;
  }
  const from = stitches === 1 ? 'a stitch' : `${stitches} stitches`;
  const goes = stitches === 0 ? 'it begins after the cut' : `it goes back ${from}, so that the ends lie on each other`;
  const words = `The thread broke. Thread it again; ${goes}.`;
  const waits: Halt = { kind: 'break', at: state.time, onAt: Math.max(0, done[back] ?? 0), words };
  return { ...state, waits, breaks: state.breaks + 1 };
}

/** The thread that is on when so many rows are sewn, by the turns of the program. */
export function turnAt<T extends Pick<ThreadTurn, 'turn'>>(
  turns: readonly T[],
  { command }: Pick<Program, 'command'>,
  rows: number,
): T | undefined {
  let colors = 0;
  for (let row = 0; row < rows; row++) if (command[row] === COLOR) colors++;
  return turns[Math.max(0, colors - 1)];
}
