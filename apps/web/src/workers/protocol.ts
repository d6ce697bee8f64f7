import type {
  AdaptScope,
  AdaptWay,
  AppliedRepair,
  ClockEvent,
  CoverMap,
  Figures,
  Finding,
  JournalEntry,
  KeptFinding,
  ObjectDecision,
  OpeningProposal,
  Operation,
  PredictedGap,
  Program,
  RebuiltObject,
  RefusedRepair,
  RunTotals,
  SpecEdit,
  StitchObject,
  Target,
  ThreadAdaption,
  ThreadType,
} from '@isola/core';
import type { ProgramChange } from './clothProtocol.ts';

/** A design as the screens need it: its rows, and what was measured on them. The arrays are the receiver's own. */
export interface DesignView {
  readonly program: Program;
  readonly target: Target;
  readonly kept: Readonly<Record<string, KeptFinding>>;
  readonly decisions: readonly ObjectDecision[];
  readonly rebuilt: readonly RebuiltObject[];
  /** The same for as long as rows, decisions and rebuilt objects are the same: then the objects are too. */
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
  /** What the step is called when it is made. */
  readonly name: string;
  /** Of a trial of specs: what the objects take, before and after. */
  readonly pairs?: SpecPairs;
  /** Where the covers of those objects would begin, by the ids that they have now. */
  readonly firstRows?: Readonly<Record<string, number>>;
}

/** Objects that were sewn anew, before anything is measured on them. */
export interface SewnTrial {
  readonly change: Omit<ProgramChange, 'from'>;
}

/** Figures of objects that are sewn anew, each as it is and as it would be. Seconds, covers and gaps are estimates. */
export interface SpecPairs {
  readonly stitches: readonly [before: number, after: number];
  readonly seconds: readonly [before: number, after: number];
  /** K of the densest spot of all. */
  readonly cover: readonly [before: number, after: number];
  /** Widest gap to a neighbour, mm; 0 where none opens. */
  readonly gap: readonly [before: number, after: number];
}

/** Why nothing could be sewn as asked. */
export interface SpecRefusal {
  readonly why: string;
}

export interface Prediction {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly gaps: readonly PredictedGap[];
}

/** By which numbers the drawing worker will know a trial, and knows the design that it is made from. */
export interface ComingProgram {
  readonly number: number;
  readonly from: number;
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
  /** Takes what was recognized in the design with this key; what follows is answered with it, and not at all for another design. */
  knowObjects(key: string, objects: readonly StitchObject[], ownerOfRow: Int32Array): Promise<void>;
  /**
   * Sews objects anew, as one step called `name`; a new thread may go with them. Where the drawing worker waits for them as program `coming`, it
   * gets them from here.
   */
  sewSpecs(name: string, edits: readonly SpecEdit[], target?: Target, coming?: ComingProgram): Promise<SewnTrial | SpecRefusal | undefined>;
  /** Measures what `sewSpecs` sewed last; nothing where the design has changed since. */
  measureSewn(): Promise<Trial | undefined>;
  /** What fits the design, or one color of it, to another thread. */
  adaptThread(thread: ThreadType, way: AdaptWay, scope?: AdaptScope): Promise<ThreadAdaption | undefined>;
  /** Which fills to open up until the design keeps to a number of stitches. */
  proposeOpening(budget: number): Promise<OpeningProposal | undefined>;
  /** Where penetrations will lie once the cloth has given way, and where it will show between objects. */
  predict(side: Side): Promise<Prediction | undefined>;
}

/** The engine as the page sees it. */
export interface EngineWorkerApi extends EngineApi {
  /** A port to the drawing worker. */
  connect(port: MessagePort): Promise<void>;
}
