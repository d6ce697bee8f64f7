import type { FindingCounts } from '@isola/contract';
import type { Figures, FileProblem, JournalEntry, FormatId, Target } from '@isola/core';

/** A job as a worker needs it: its file, and what happened to it since. `bytes` may be left out where the worker may have it in hand. */
export interface JobState {
  readonly jobId: string;
  readonly bytes?: Uint8Array;
  readonly initialTarget: Target;
  readonly entries: readonly JournalEntry[];
}

export interface ReadAnswer {
  readonly kind: FormatId;
  readonly warnings: readonly string[];
  readonly figures: Figures;
  readonly findings: FindingCounts;
  /** The program as stitch CSV, gzipped. */
  readonly program: Uint8Array;
}

export interface DeriveAnswer {
  readonly figures: Figures;
  readonly target: Target;
  readonly findings: FindingCounts;
  readonly openStops: readonly string[];
}

/** What workers are asked and what they answer. A `refused` answer is the user's to mend; anything else that fails is thrown. */
export interface DesignTasks {
  read: { request: { bytes: Uint8Array; target: Target }; answer: ReadAnswer | { refused: FileProblem } };
  derive: { request: JobState; answer: DeriveAnswer | { refused: string } | 'bytes-needed' };
  /** The objects of a job's present design, as JSON. */
  recognize: { request: JobState; answer: { objects: readonly object[] } | 'bytes-needed' };
  write: { request: JobState & { format: FormatId | 'csv.gz' }; answer: { content: Uint8Array } | 'bytes-needed' };
}

export type TaskName = keyof DesignTasks;
export type Request<K extends TaskName> = DesignTasks[K]['request'];
export type Answer<K extends TaskName> = DesignTasks[K]['answer'];
