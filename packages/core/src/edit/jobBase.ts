import { z } from 'zod';
import type { Design, KeptFinding } from '../model/design.ts';
import type { Program } from '../model/program.ts';
import { Target } from '../model/target.ts';
import { adoptProgram } from '../plan/adoptProgram.ts';
import { designOf } from '../plan/designOf.ts';
import { planFromJson, planToJson, programFromJson, programToJson } from '../plan/planJson.ts';
import { RECOGNIZER_VERSION, type RecognizeOptions, recognizeProgram } from '../recognize/recognizeProgram.ts';
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
}

/** The base of a file, and of the journal of rows that it may have had. Fails where that does not replay. */
export function makeBase(
  program: Program,
  target: Target,
  entries: readonly RowEntry[],
  options: RecognizeOptions = {},
): Result<JobBase, string> {
  const made = { recognizer: RECOGNIZER_VERSION, version: entries.length };
  if (entries.length === 0)
    return succeed({ ...made, design: designOf(adoptProgram(program, recognizeProgram(program, options)), target), steps: [] });
  const replayed = replayRowJournal(program, target, entries);
  if (!replayed.ok) return fail(replayed.error);
  const { design, steps } = replayed.value;
  return succeed({ ...made, design: adoptRowDesign(design, options), steps });
}

const Stored = z.object({
  recognizer: z.number().int(),
  version: z.number().int(),
  steps: z.array(z.object({ name: z.string(), reason: z.string().optional() })),
  target: Target,
  kept: z.record(z.string(), z.object({ rule: z.string(), title: z.string(), reason: z.string() })),
  plan: z.string(),
  /** The rows that the plan speaks of, where they are not the file's. */
  source: z.string().nullable(),
});

/** A base as it is stored and sent, without the file. */
export function baseToJson({ design, recognizer, version, steps }: JobBase): string {
  const { plan, target, kept } = design;
  const source = version === 0 ? null : programToJson(plan.source);
  return JSON.stringify({ recognizer, version, steps, target, kept, plan: planToJson(plan), source });
}

/** The base of a file from such JSON. @throws when it is none, or does not fit the file. */
export function baseFromJson(json: string, file: Program): JobBase {
  const { plan, source, target, kept, recognizer, version, steps } = Stored.parse(JSON.parse(json));
  const program = source === null ? file : programFromJson(source);
  return {
    design: designOf(planFromJson(plan, program), target, kept satisfies Record<string, KeptFinding>),
    ...{ recognizer, version },
    steps: steps.map(({ name, reason }) => ({ name, ...(reason === undefined ? {} : { reason }) })),
  };
}
