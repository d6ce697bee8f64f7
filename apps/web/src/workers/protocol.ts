import type {
  AppliedRepair,
  ClockEvent,
  CoverMap,
  Figures,
  Finding,
  JournalEntry,
  KeptFinding,
  ObjectDecision,
  Operation,
  Program,
  RefusedRepair,
  RunTotals,
  Target,
} from '@isola/core';

/** A design as the screens need it: its rows, and what was measured on them. The arrays are the receiver's own. */
export interface DesignView {
  readonly program: Program;
  readonly target: Target;
  readonly kept: Readonly<Record<string, KeptFinding>>;
  readonly decisions: readonly ObjectDecision[];
  /** The same for as long as rows and decisions are the same: then the objects are too. */
  readonly objectsKey: string;
  readonly figures: Figures;
  /** Their `rows` are the first few hundred only: all of them would take longer to hand over than the rest together. */
  readonly findings: readonly Finding[];
  readonly events: readonly ClockEvent[];
  /** Seconds at which each row is done. */
  readonly done: Float64Array;
  readonly totals: RunTotals;
  /** K of the densest spot. */
  readonly maxCover: number;
}

/** A step's name, and what was said with it. */
export interface StepView {
  readonly name: string;
  readonly reason: string | undefined;
  readonly isTarget: boolean;
}

export interface Opened {
  readonly now: DesignView;
  /**
   * The file as it came in, on the present target, so that both sides of a comparison are measured alike. Sent when a job is opened and when
   * its target changed.
   */
  readonly before: DesignView | undefined;
  readonly done: readonly StepView[];
  readonly undone: readonly StepView[];
}

export type Changed = ({ readonly ok: true } & Opened) | { readonly ok: false; readonly reason: string };

/** A repair that was worked out and not made. */
export interface Trial {
  readonly after: DesignView;
  readonly operation: Operation;
  readonly applied: readonly AppliedRepair[];
  readonly refused: readonly RefusedRepair[];
}

export type Side = 'now' | 'before' | 'trial';

/** What the engine worker does. It holds one job's history; every call works on that. */
export interface EngineApi {
  /** Replays a job from its file. Rejects when the file or the journal does not read. */
  open(bytes: Uint8Array, initialTarget: Target, entries: readonly JournalEntry[]): Promise<Opened>;
  /** Adds entries to the history, all or none. */
  extend(entries: readonly JournalEntry[]): Promise<Changed>;
  /** Works out the repairs of the findings with these keys; none where nothing can be repaired. */
  tryRepairs(keys: readonly string[]): Promise<Trial | undefined>;
  cover(side: Side): Promise<CoverMap | undefined>;
}
