import { z } from 'zod';
import type { Plan } from '../model/plan.ts';
import type { Program, ProgramThread } from '../model/program.ts';

/** Counts up when what is stored changes; older ones are brought up by {@link UPGRADES}. */
const SCHEMA = 1;

const Stored = z.object({ schema: z.number().int().min(1).max(SCHEMA), rows: z.number().int(), plan: z.record(z.string(), z.unknown()) });

/** Upgrades of a stored plan's JSON, from each schema to the next. */
const UPGRADES: readonly ((plan: Record<string, unknown>) => Record<string, unknown>)[] = [];

/** Lists of numbers (as one text, which reads several times faster than an array) and programs stand in JSON under these names. */
const LIST = '#list';
const ROWS = '#rows';

/** A plan without its source, which is the file. Numbers keep all their digits. */
export function planToJson({ source, ...plan }: Plan): string {
  return JSON.stringify({ schema: SCHEMA, rows: source.rowCount, plan }, (_, value: unknown) => {
    if (value instanceof Float64Array) return { [LIST]: value.join(' ') };
    if (isProgram(value)) return { [ROWS]: storedRows(value) };
    return value;
  });
}

/** The plan of a file from such JSON. @throws when it is no plan, or one of a later version. */
export function planFromJson(json: string, source: Program): Plan {
  const stored = Stored.parse(
    JSON.parse(json, (_, value: unknown) => {
      if (typeof value !== 'object' || value === null) return value;
      if (LIST in value) return readList(value[LIST] as string | number[]);
      return ROWS in value ? asProgram(value[ROWS] as StoredRows) : value;
    }),
  );
  if (stored.rows !== source.rowCount) throw new RangeError(`a plan of ${stored.rows} rows does not fit a file of ${source.rowCount}`);
  const plan = UPGRADES.slice(stored.schema - 1).reduce((json, upgrade) => upgrade(json), stored.plan);
  return { source, ...(plan as unknown as Omit<Plan, 'source'>) };
}

/** Earlier ones are arrays. */
function readList(list: string | readonly number[]): Float64Array {
  if (typeof list === 'string') return list === '' ? new Float64Array(0) : Float64Array.from(list.split(' '), Number);
  return Float64Array.from(list);
}

/** A program with all its digits, and back. */
export function programToJson(program: Program): string {
  return JSON.stringify(storedRows(program));
}

export function programFromJson(json: string): Program {
  return asProgram(JSON.parse(json) as StoredRows);
}

interface StoredRows {
  readonly x: number[];
  readonly y: number[];
  readonly command: number[];
  readonly threads: ProgramThread[];
  readonly notes: [number, string][];
}

function isProgram(value: unknown): value is Program {
  return typeof value === 'object' && value !== null && 'command' in value && value.command instanceof Uint8Array;
}

function storedRows({ x, y, command, threads, notes }: Program): StoredRows {
  return { x: [...x], y: [...y], command: [...command], threads: [...threads], notes: [...notes] };
}

function asProgram({ x, y, command, threads, notes }: StoredRows): Program {
  return {
    ...{ rowCount: command.length, x: Float64Array.from(x), y: Float64Array.from(y), command: Uint8Array.from(command) },
    threads,
    notes: new Map(notes),
  };
}
