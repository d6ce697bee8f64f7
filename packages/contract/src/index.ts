// What the server says and the web application hears.
export * from './events.ts';
export * from './people.ts';
import type {
  BoardPlan,
  CheckId,
  ClockLesson,
  Fabric,
  Figures,
  FileAudit,
  Garment,
  Hoop,
  JournalEntry,
  LayoutRecord,
  Machine,
  PhotoPoint,
  PracticeClaim,
  PracticeResult,
  PullLesson,
  SewOut,
  Severity,
  FormatId,
  ShopRules,
  Target,
  ThreadType,
} from '@isola/core';

export type Stage = 'taken-in' | 'in-work' | 'released';
export type FindingCounts = Readonly<Record<Severity, number>>;

/** A job as lists show it. */
export interface JobSummary {
  readonly id: string;
  readonly name: string;
  readonly customer: string;
  /** YYYY-MM-DD. */
  readonly due: string | null;
  readonly fileName: string;
  readonly fileKind: FormatId;
  /** What was noted while the file was read. */
  readonly warnings: readonly string[];
  readonly target: Target;
  /** Figures as the file came in, on the target of that time, and as they are now. */
  readonly before: Figures;
  readonly now: Figures;
  /** Open findings. */
  readonly findings: FindingCounts;
  readonly stage: Stage;
  /** Its last release: what is on the bench now is that while the version is the same. */
  readonly released: Release | null;
  /** Whether it is there to practise on, and was judged; null of a job of the shop. */
  readonly practice: 'open' | 'judged' | null;
  /** Number of journal entries: what a change has to be based on. */
  readonly version: number;
  readonly detailsVersion: number;
  /** SHA-256 of the program that the last entry led to (`programBytes`), as the server worked it out; null before there is one. */
  readonly programHash: string | null;
  readonly createdAt: string;
  readonly updatedAt: string;
}

/** A revision that was released, by its number, with what it came to. */
export interface Release {
  readonly number: number;
  readonly version: number;
  readonly figures: Figures;
}

/** A line of the check list as it was passed when a revision was released: settled by itself, or by somebody's reason. */
export interface PassedCheck {
  readonly id: CheckId;
  readonly found: string;
  readonly reason: string | null;
}

/** Who took a file though something stood against sewing it, and why. */
export interface SignOff {
  readonly version: number;
  readonly who: string;
  readonly reason: string;
  readonly stops: readonly string[];
  readonly createdAt: string;
}

/** For so many days a deleted job can be put back. */
export const KEPT_DAYS = 30;

/** A job that was deleted and can be put back. */
export interface DeletedJob {
  readonly id: string;
  readonly name: string;
  readonly customer: string;
  readonly deletedAt: string;
}

export interface JournalRecord {
  /** Counts from 1. */
  readonly seq: number;
  readonly at: string;
  /** Null where people do not sign in. */
  readonly who: string | null;
  readonly entry: JournalEntry;
}

/** In the answer with a list of jobs: how many there are (of those that are looked for, 1000 at most), and of all of them the seconds that were saved on their orders. */
export const TOTAL_HEADER = 'Isola-Total';
export const SAVED_HEADER = 'Isola-Saved';

/** In the answer with what a journal is replayed from: how many entries are in that. */
export const VERSION_HEADER = 'Isola-Version';

export interface RevisionSummary {
  /** Counts from 1, which is the file as it came in. */
  readonly number: number;
  readonly version: number;
  readonly name: string;
  readonly note: string;
  readonly isRelease: boolean;
  /** How many findings of severity stop were open when it was kept; null: it is not known. */
  readonly stopCount: number | null;
  /** Who released it, and what was gone through before; null where it was only kept, or is not known. */
  readonly who: string | null;
  readonly checks: readonly PassedCheck[] | null;
  readonly figures: Figures;
  readonly createdAt: string;
}

/** A step that was ever made, whether it is done at present or not. */
export interface HistoryStep {
  readonly id: string;
  /** The step that it was made on; null: what the steps begin with. */
  readonly parent: string | null;
  /** The version that it led to. */
  readonly seq: number;
  readonly at: string;
  readonly name: string;
  readonly reason: string | null;
  readonly isTarget: boolean;
  /** Who made it, where people sign in; null where that is not known. */
  readonly who: string | null;
}

/** All that was done to a job, as the tree that it is: a step on top of one that has another on it already begins a branch. */
export interface JobHistory {
  readonly version: number;
  /** Steps from before objects lasted: they can be read, and nothing leads back to them. */
  readonly earlier: readonly { readonly name: string; readonly at: string }[];
  /** In the order in which they were made. */
  readonly steps: readonly HistoryStep[];
  /** The last one that is done; null: none. */
  readonly now: string | null;
  /** Names that were given to branches, by the step that begins each. */
  readonly branches: readonly { readonly step: string; readonly name: string }[];
  /** The step that each revision was kept at; those from before objects lasted are not named. */
  readonly revisions: readonly { readonly number: number; readonly step: string | null }[];
}

export interface JobDetail extends JobSummary {
  readonly initialTarget: Target;
  /** How many entries are in what the journal is replayed from, and the recognizer by which the job was read; null while it is. */
  readonly base: { readonly version: number; readonly recognizer: number } | null;
  /** The entries after those, or after the version that was asked for. */
  readonly journal: readonly JournalRecord[];
  readonly revisions: readonly RevisionSummary[];
  readonly signOffs: readonly SignOff[];
}

export interface Shop {
  readonly fabrics: readonly Fabric[];
  readonly garments: readonly Garment[];
  readonly hoops: readonly Hoop[];
  readonly machines: readonly Machine[];
  readonly threads: readonly ThreadType[];
  /** Of machines' own files. */
  readonly layouts: readonly LayoutRecord[];
  readonly rules: ShopRules;
}
/** Lists of records. */
export type ShopKind = Exclude<keyof Shop, 'rules'>;
/** The rulebook is one record of its own kind, by this id. */
export const RULES_RECORD = 'rules';

/** Who changes something of the shop, and why. */
export interface ShopSignature {
  readonly who: string;
  readonly why: string;
}

/** A change of a shop's record: as it was before and after; null where it was not there. Changes are kept for good. */
export interface ShopChange extends ShopSignature {
  readonly id: string;
  readonly kind: ShopKind | 'rules';
  readonly recordId: string;
  readonly before: unknown;
  readonly after: unknown;
  /** The change that this one takes back. */
  readonly undoes: string | null;
  readonly at: string;
}

/** A job whose target holds a record, with the same values still or with those it was judged by. */
export interface RecordUse {
  readonly id: string;
  readonly name: string;
  readonly isSame: boolean;
}

/** What other values of the shop would do to a job: findings by rule that would come and go, and what a piece takes, s (an estimate). */
export interface ShopEffect {
  readonly came: readonly string[];
  readonly went: readonly string[];
  readonly seconds: { readonly before: number; readonly after: number };
}

/** A photo of a sample; `points`: by which it lies over the design, once three were marked. */
export interface SewOutPhoto {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly points: readonly PhotoPoint[] | null;
}

/** A sample as it is kept. */
export interface SewOutRecord {
  readonly id: string;
  /** Null once its job is gone for good. */
  readonly jobId: string | null;
  readonly jobName: string;
  /** What a change of it has to be based on. */
  readonly version: number;
  readonly sewOut: SewOut;
  readonly photos: readonly SewOutPhoto[];
  readonly createdAt: string;
}

/** The week's board, and what a change of it has to be based on. */
export interface Board {
  readonly version: number;
  readonly plan: BoardPlan;
}

/** A file with planted faults: how many there are, what was said of them, and what came of it once it is judged. */
export interface Practice {
  readonly jobId: string;
  readonly version: number;
  readonly faults: number;
  readonly claims: readonly PracticeClaim[];
  readonly result: PracticeResult | null;
}

/** What all samples taught about a cloth and a machine; null where nothing. */
export interface Lessons {
  readonly pull: PullLesson | null;
  readonly clock: ClockLesson | null;
}

export type AuditFileState = 'waiting' | 'done' | 'failed' | 'cancelled';

/** An audit of many files: how many of them are in which state. */
export interface AuditSummary {
  readonly id: string;
  readonly name: string;
  readonly target: Target;
  readonly counts: Readonly<Record<AuditFileState, number>>;
  readonly isCancelled: boolean;
  readonly createdAt: string;
}

/** A file of it: with its audit once that is done, or why there is none. */
export interface AuditFileRow {
  /** Counts from 1. */
  readonly seq: number;
  readonly name: string;
  readonly state: AuditFileState;
  readonly audit: FileAudit | null;
  readonly problem: string | null;
}

export interface AuditDetail extends AuditSummary {
  readonly files: readonly AuditFileRow[];
}

/** Problem details (RFC 9457) as the server sends them. */
export interface ProblemDetails {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly line?: number;
  readonly byte?: number;
  readonly found?: string;
  readonly expected?: string;
  /** With 409: the version that the job is at, and how many of the entries sent it has already. */
  readonly version?: number;
  readonly known?: number;
}
