import { z } from 'zod';
import type { Design, KeptFinding } from '../model/design.ts';
import type { Program } from '../model/program.ts';
import { Target } from '../model/target.ts';
import { adoptProgram } from '../plan/adoptProgram.ts';
import { designOf } from '../plan/designOf.ts';
import { planFromJson, planToJson, programFromJson, programToJson } from '../plan/planJson.ts';
import { PLAIN_RECOGNIZER, recognizePlainly } from '../recognize/recognizePlainly.ts';
import { RECOGNIZER_VERSION, type RecognizeOptions, recognizeProgram } from '../recognize/recognizeProgram.ts';
import { type History, type KnownStep, nameStep, type NamedStep } from './journal.ts';
import { Operation } from './operations/registry.ts';
import { adoptRowDesign } from './rowJournal/adoptRowDesign.ts';
import { type EarlierStep, replayRowJournal } from './rowJournal/replayRowJournal.ts';
import type { RowEntry } from './rowJournal/rowEntry.ts';
import { fail, type Result, succeed } from '../model/result.ts';

/**
 * What a job's journal builds on, made once when its file is taken in: the plan of the file as it was recognized then, so that a later recognizer
 * changes nothing of what was decided since.
 */
export interface JobBase {
  readonly design: Design;
  /** The recognizer by which it was made. */
  readonly recognizer: number;
  /** Entries of the journal that are in it already: those of rows, from before objects lasted. They can be read but not taken back. */
  readonly version: number;
  readonly steps: readonly EarlierStep[];
  /** Whether the rows that its plan speaks of are the file's, or others that a journal of rows led to. */
  readonly isOfFile: boolean;
}

/** A job's history at a later version, to go on from there without the entries before it. */
export interface Snapshot extends JobBase {
  readonly far: readonly NamedStep[];
  readonly undone: readonly Omit<KnownStep, 'parent'>[];
  /** Whether it is a base, before which there was no step. */
  readonly isWhole: boolean;
}

/**
 * The base of a file, and of the journal of rows that it may have had. Fails where that does not replay. `isPlain`: its objects are not recognized,
 * each stretch is one; of a journal of rows they always are.
 */
export function makeBase(
  program: Program,
  target: Target,
  entries: readonly RowEntry[],
  { isPlain = false, ...options }: RecognizeOptions & { readonly isPlain?: boolean } = {},
): Result<JobBase, string> {
  if (isPlain && entries.length === 0) {
    const design = designOf(adoptProgram(program, recognizePlainly(program)), target);
    return succeed({ recognizer: PLAIN_RECOGNIZER, version: 0, isOfFile: true, design, steps: [] });
  }
  const made = { recognizer: RECOGNIZER_VERSION, version: entries.length, isOfFile: entries.length === 0 };
  if (entries.length === 0)
    return succeed({ ...made, design: designOf(adoptProgram(program, recognizeProgram(program, options)), target), steps: [] });
  const replayed = replayRowJournal(program, target, entries);
  if (!replayed.ok) return fail(replayed.error);
  const { design, steps } = replayed.value;
  return succeed({ ...made, design: adoptRowDesign(design, options), steps });
}

/** A base with what became of it by the entry that makes it that version. */
export function takeSnapshot(base: Omit<JobBase, 'design'>, history: History, version: number): Snapshot {
  const { design, far, done, undone } = history;
  return {
    ...{ recognizer: base.recognizer, steps: base.steps, isOfFile: base.isOfFile, design, version },
    far: [...far, ...done.map(nameStep)],
    undone: undone.map(({ id, name, operation }) => ({ id, name, operation })),
    isWhole: false,
  };
}

/** The history that entries after a base or a snapshot go on from. */
export function historyFrom({ design, far, undone, isWhole }: Snapshot): History {
  const root = far.at(-1)?.id ?? null;
  const known = undone.map((step, k): KnownStep => ({ ...step, parent: undone[k + 1]?.id ?? root }));
  return { design, far, done: [], undone: known, left: [], isWhole };
}

const Name = z.object({ name: z.string(), reason: z.string().optional() });
const Stored = z.object({
  recognizer: z.number().int(),
  version: z.number().int(),
  steps: z.array(Name),
  far: z.array(Name.extend({ id: z.string(), isTarget: z.boolean() })).optional(),
  undone: z.array(z.object({ id: z.string(), name: z.string(), operation: Operation })).default([]),
  target: Target,
  kept: z.record(z.string(), z.object({ rule: z.string(), title: z.string(), reason: z.string() })),
  plan: z.string(),
  /** The rows that the plan speaks of, where they are not the file's. */
  source: z.string().nullable(),
});

/** A base or a snapshot as it is stored and sent, without the file. */
export function baseToJson({ design, ...base }: JobBase | Snapshot): string {
  const { plan, target, kept } = design;
  const { isOfFile, isWhole: _, ...rest } = { isWhole: true, ...base };
  const source = isOfFile ? null : programToJson(plan.source);
  return JSON.stringify({ ...rest, target, kept, plan: planToJson(plan), source });
}

/** The base or snapshot of a file from such JSON. @throws when it is none, or does not fit the file. */
export function baseFromJson(json: string, file: Program): Snapshot {
  const { plan, source, target, kept, steps, far, ...rest } = Stored.parse(JSON.parse(json));
  const program = source === null ? file : programFromJson(source);
  return {
    design: designOf(planFromJson(plan, program), target, kept satisfies Record<string, KeptFinding>),
    ...rest,
    far: far ?? [],
    // Bases have none; snapshots have it, empty as it may be.
    isWhole: far === undefined,
    isOfFile: source === null,
    steps: steps.map(({ name, reason }) => ({ name, ...(reason === undefined ? {} : { reason }) })),
  };
}
