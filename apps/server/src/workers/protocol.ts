import type { FindingCounts, ShopEffect } from '@isola/contract';
import type {
  AboutDesign,
  Figures,
  FileAudit,
  FileProblem,
  Finding,
  Extents,
  FormatId,
  JournalEntry,
  KeptFinding,
  MachineLayout,
  PlantedFault,
  PracticeClaim,
  PracticeResult,
  ProductionSheet,
  Program,
  ReleaseCheck,
  RowEntry,
  Target,
  Verdict,
} from '@isola/core';

/** All that a job's design follows from, where a worker does not have it in hand. */
export interface WholeJob {
  readonly bytes: Uint8Array;
  /** The base of its journal or a later snapshot as JSON, gzipped. */
  readonly base: Uint8Array;
  /** The entries after those that are in it, up to the version asked for. */
  readonly entries: readonly JournalEntry[];
}

/** A job at a version, which its last entry proves; `whole` may be left out where the worker may have it in hand. */
export interface JobState {
  readonly jobId: string;
  readonly version: number;
  readonly lastEntryId: string | null;
  readonly whole?: WholeJob;
}

/** The worker does not have the job in hand; or what it was given is a snapshot, and entries take back steps from before that. */
export type Needed = 'state-needed' | 'journal-needed';

export interface ReadAnswer {
  readonly kind: FormatId;
  readonly warnings: readonly string[];
  readonly figures: Figures;
  readonly findings: FindingCounts;
  /** The program as stitch CSV, gzipped. */
  readonly program: Uint8Array;
  /** Of the file, and the file itself, gzipped. */
  readonly sha256: string;
  readonly packed: Uint8Array;
  /** A machine's own file as it came, gzipped; what is worked on is then its program as stitch CSV. */
  readonly original?: Uint8Array;
  /** What a design JSON says of its job. */
  readonly about?: AboutDesign;
}

export interface AdoptAnswer {
  /** As JSON, gzipped. */
  readonly base: Uint8Array;
  readonly recognizer: number;
  readonly version: number;
}

/** A design as it is judged: what an audit on paper says. */
export interface JudgedDesign {
  readonly target: Target;
  readonly figures: Figures;
  /** Worst first, with their places but without their rows. */
  readonly findings: readonly Finding[];
  /** What was kept as it is, by its place's key. */
  readonly kept: Readonly<Record<string, KeptFinding>>;
  readonly verdict: Verdict;
}

export interface SheetAnswer {
  readonly sheet: ProductionSheet;
  readonly program: Program;
  readonly extents: Extents;
}

export interface CountAnswer {
  readonly figures: Figures;
  readonly findings: FindingCounts;
  /** What of severity stop is found, in words. */
  readonly openStops: readonly string[];
}

export interface DeriveAnswer {
  readonly figures: Figures;
  readonly target: Target;
  /** How many steps are done by then and not taken back. */
  readonly stepCount: number;
  /** Of the program that each of the entries led to. */
  readonly programHashes: readonly string[];
}

/** Entries were made without knowing what others did since a step (null: the start); `own` are steps since then that who made them knows. */
export interface Beside {
  readonly since: string | null;
  readonly own: readonly string[];
}

/** What workers are asked and what they answer. A `refused` answer is the user's to mend; anything else that fails is thrown. */
export interface DesignTasks {
  read: {
    request: { bytes: Uint8Array; target: Target; layout?: MachineLayout | undefined };
    answer: ReadAnswer | { refused: FileProblem };
  };
  /** Recognizes a file, and takes over the journal of rows that its job may have. `isPlain`: it is taken as it is, without recognizing it. */
  adopt: { request: { bytes: Uint8Array; target: Target; entries: readonly RowEntry[]; isPlain?: boolean }; answer: AdoptAnswer };
  /** Measures a job's design as it would be after more entries; those that were made beside others' are told where both touch the same. */
  derive: {
    request: JobState & { more: readonly JournalEntry[]; beside?: Beside | undefined };
    answer: DeriveAnswer | { refused: string } | { overlap: readonly string[] } | Needed;
  };
  count: { request: JobState; answer: CountAnswer | Needed };
  /** A job as JSON, gzipped, to go on from without the entries before. */
  snapshot: { request: JobState; answer: { snapshot: Uint8Array } | Needed };
  report: { request: JobState; answer: JudgedDesign | Needed };
  /** What an operator is given with a design, and the design as it lies in the hoop. */
  sheet: { request: JobState; answer: SheetAnswer | Needed };
  /** Judges a file by itself, among many. */
  audit: {
    request: { bytes: Uint8Array; target: Target; layout?: MachineLayout | undefined };
    answer: { audit: FileAudit } | { refused: FileProblem };
  };
  /** What would be found with other values of the shop, against what is found with those that the job is judged by. */
  judge: { request: JobState & { instead: ShopValues }; answer: ShopEffect | Needed };
  /** A job's design with faults planted in it, as stitch CSV. */
  plant: { request: JobState & { count: number; seed: number }; answer: { bytes: Uint8Array; planted: readonly PlantedFault[] } | Needed };
  /** What somebody found and mended of planted faults. */
  practise: {
    request: JobState & { planted: readonly PlantedFault[]; claims: readonly PracticeClaim[] };
    answer: { result: PracticeResult } | Needed;
  };
  /** What is gone through before a design is released. */
  check: { request: JobState; answer: { checks: readonly ReleaseCheck[] } | Needed };
  /** The objects of a job's design, as JSON. */
  objects: { request: JobState; answer: { objects: readonly object[] } | Needed };
  /** A file in another format, and what stands against sewing it on a target. */
  convert: {
    request: { bytes: Uint8Array; target: Target; format: FormatId | MachineLayout };
    answer: { content: Uint8Array; openStops: readonly string[] } | { refused: string };
  };
  write: {
    request: JobState & { format: FormatId | 'csv.gz' | MachineLayout; about?: AboutDesign };
    answer: { content: Uint8Array } | { refused: string } | Needed;
  };
}

/** Of a target what the shop has records of, or the rulebook. */
export type ShopValues = Partial<Pick<Target, 'rules' | 'fabric' | 'machine'>>;

export type TaskName = keyof DesignTasks;
export type Request<K extends TaskName> = DesignTasks[K]['request'];
export type Answer<K extends TaskName> = DesignTasks[K]['answer'];

/** How far a task is, from 0 to 1, and what it is doing. */
export interface Progress {
  readonly share: number;
  readonly doing: string;
}
