import type {
  AdaptScope,
  AdaptWay,
  AppliedRepair,
  Connector,
  Figures,
  FindingChange,
  HoopLayout,
  JournalEntry,
  LaidOut,
  MachineRun,
  MovedEnds,
  OpeningProposal,
  Operation,
  OrderAsk,
  OrderProposal,
  PlanStep,
  PointsAsk,
  PredictedGap,
  RefusedRepair,
  RepairPlan,
  Rereading,
  Result,
  SeenLayers,
  ShapeAsk,
  ShapeNodes,
  SpecEdit,
  SpecPairs,
  StateName,
  StitchKind,
  StitchRole,
  Target,
  ThreadAdaption,
  ThreadTurn,
  ThreadType,
  WantedEnds,
} from '@isola/core';
import type { ProgramChange } from './clothProtocol.ts';
import type { DesignView, LayersView, ShownCover } from './viewProtocol.ts';
import type { Comparison, Judged, SampledState, StateNeeds, StatePicture } from './compareProtocol.ts';

export type { DesignView, LayersView, ObjectsView, ShownCover } from './viewProtocol.ts';

/** A step's name, and what was said with it. */
export interface StepView {
  /** Of the entry that did it; empty where it cannot be taken back. */
  readonly id: string;
  readonly name: string;
  readonly reason: string | undefined;
  readonly isTarget: boolean;
  /** Steps from before objects lasted can be read but not taken back. */
  readonly isFixed: boolean;
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

/** What became of entries. `isFar`: one of them takes back a step that is not in hand; {@link EngineApi.reachBack} brings it. */
export type Changed = ({ readonly ok: true } & Opened) | { readonly ok: false; readonly reason: string; readonly isFar: boolean };

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
  /** Of a proposed order: what it moves, and the ways that it leads to. */
  readonly order?: OrderReport;
  /** What it does to the findings. */
  readonly changes?: readonly FindingChange[];
  /** What had to be said of drawn shapes, in words. */
  readonly notes?: readonly string[];
  /** Of a plan of repair: its steps, and after which of them the design is. */
  readonly plan?: PlanReport;
}

/** A plan of repair without its operations and the design that it makes; `upTo`: how many of its steps are shown. */
export interface PlanReport extends Omit<RepairPlan, 'design' | 'steps'> {
  readonly steps: readonly Omit<PlanStep, 'operations'>[];
  readonly isFree: boolean;
  readonly upTo: number;
}

/** What a plan of repair is asked for. */
export interface PlanRequest {
  /** Ids of steps that are left out. */
  readonly without: readonly string[];
  /** Only what adds no stitch and changes nothing that is seen. */
  readonly isFree: boolean;
}

/** A step on single penetrations, what was said of it, and where the rows that it speaks of are after it. */
export interface PointsStep {
  readonly operation: Operation;
  readonly notes: readonly string[];
  readonly rows: readonly number[];
}

/** What a proposed order comes to, apart from the design that it makes. */
export type OrderReport = Omit<OrderProposal, 'operations' | 'design'>;

/** A design as the simulated machine sews it: its file's program, and what halts it. */
export interface MachineView {
  readonly view: DesignView;
  readonly run: Omit<MachineRun, 'program'>;
  readonly turns: readonly ThreadTurn[];
}

/** Copies in a hoop as they are sewn together. */
export interface LayoutView {
  readonly view: DesignView;
  readonly placed: LaidOut['placed'];
  readonly most: number;
  readonly mostTurned: number;
}

/** Ways between objects of one thread, and what is seen on what, of the present design. */
export interface OrderView {
  readonly connectors: readonly Connector[];
  readonly seen: SeenLayers;
  readonly stops: readonly { readonly object: string; readonly note: string }[];
}

/** Objects that were sewn anew, before anything is measured on them. */
export interface SewnTrial {
  readonly change: Omit<ProgramChange, 'from'>;
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

/** What becomes of entries one after another, where those that do not fit are left out. */
export interface Weighed {
  readonly before: Figures;
  readonly after: Figures;
  /** Why each does not fit; none where it does. */
  readonly problems: readonly (string | undefined)[];
  /** Some may fit once {@link EngineApi.reachBack} brought what is not in hand. */
  readonly isFar: boolean;
}

/** A step that was worked out, or why there is none. */
export type Proposal = Result<Operation, string>;

/** `one` and `other`: the states that were compared last. */
export type Side = 'now' | 'before' | 'trial' | 'one' | 'other';

/** What the engine worker does. It holds one job's history; every call works on that. */
export interface EngineApi {
  /** Reads the file of a job, which is opened next. Rejects when it does not read. */
  read(bytes: Uint8Array): Promise<void>;
  /**
   * Replays the job whose file was read from a base or snapshot of it (as JSON), unless the entries take back steps from before that snapshot.
   * The drawing worker gets its program under `number`. Rejects when base or an entry does not read.
   */
  open(base: string, entries: readonly JournalEntry[], number: number): Promise<Opened | 'journal-needed'>;
  /** All of the job that was opened, which `open` gives without what takes longest. */
  audit(): Promise<Opened>;
  /** Takes up all of a job that was opened at a snapshot, with the entries from its base on, so that every step can be taken back. */
  reachBack(base: { readonly json: string; readonly version: number }, entries: readonly JournalEntry[]): Promise<void>;
  /** SHA-256 of the present program (`programBytes`), as the server says it, too. */
  hash(): Promise<string>;
  /** What would become of entries; the history stays as it is. */
  weigh(entries: readonly JournalEntry[]): Promise<Weighed>;
  /** Adds entries to the history, all or none. */
  extend(entries: readonly JournalEntry[]): Promise<Changed>;
  /** Replaces what came after a version by other entries: others' steps lie before those that were made here meanwhile. Nothing changes where one does not fit. */
  goOnFrom(version: number, entries: readonly JournalEntry[]): Promise<Changed>;
  /** Works out the repairs of the findings with these keys, or of one place of theirs; none where there is nothing to repair, or why it cannot be. */
  tryRepairs(keys: readonly string[], place?: string): Promise<Trial | SpecRefusal | undefined>;
  /** The whole repair for the job's goal, tried after so many of its steps; after all of them where nothing is said. */
  planRepairs(request: PlanRequest, upTo?: number): Promise<Trial>;
  /** Works out what a step would come to; the reason where it does not fit. */
  tryOperation(name: string, operation: Operation): Promise<Trial | SpecRefusal>;
  /** Draws, cuts or joins shapes, as a trial; refused with the reason. */
  tryShape(name: string, ask: ShapeAsk): Promise<Trial | SpecRefusal>;
  /** The nodes of an object's edges or path, or why it has none. */
  nodesOf(id: string): Promise<Result<ShapeNodes, string>>;
  /** Single penetrations moved, added, deleted or turned, worked out and not made; refused with the place. */
  editPoints(ask: PointsAsk): Promise<Result<PointsStep, string>>;
  /** A proposed order with its ways, tried; one without operations where nothing better is found. */
  proposeOrder(ask: OrderAsk): Promise<Trial>;
  orderView(): Promise<OrderView>;
  /** Copies of the design in its hoop, with where they lie and how many would fit; or why they do not fit. */
  layOut(layout: HoopLayout): Promise<LayoutView | SpecRefusal>;
  /** The design written for the simulated machine, read back and sewn there; or a file that it was given. */
  simulate(file?: Uint8Array): Promise<MachineView>;
  /** Applique sewn by step: all placements, all tack-downs, all covers; or why it cannot be. */
  regroupApplique(): Promise<Proposal>;
  /** Tries an object begun or ended elsewhere; with where it does then, and the ways beside it. */
  tryEnds(id: string, wanted: WantedEnds): Promise<(Trial & { readonly ends: MovedEnds }) | SpecRefusal>;
  /** The best way to an object from the one before; over the open cloth only where a cut is forbidden. */
  proposeWay(id: string, isCutForbidden: boolean): Promise<Result<{ readonly operation: Operation; readonly why: string }, string>>;
  /** Two states beside each other. Where one of them is not in hand, what has to be brought first. */
  compareStates(one: StateName, other: StateName): Promise<Comparison | StateNeeds>;
  /** The same two judged, which takes longer; nothing before two were compared. */
  judgeStates(): Promise<Judged | undefined>;
  pictureState(name: StateName): Promise<StatePicture | StateNeeds>;
  sampleState(name: StateName): Promise<SampledState | StateNeeds>;
  /** Takes up what the steps begin with, as JSON of a base. */
  takeStart(base: string): Promise<void>;
  /** Takes up the rows of a revision, as a stitch file. */
  takeKept(name: StateName, bytes: Uint8Array): Promise<void>;
  cover(side: Side): Promise<ShownCover | undefined>;
  /** What of the present design lies on what: asked for after the design is shown, since with many objects it takes a while the first time. */
  layers(): Promise<LayersView>;
  /** What takes objects for others: joined, parted so that the second part begins at a row, told, or read anew (all of them where none is named). */
  join(ids: readonly string[]): Promise<Proposal>;
  split(id: string, row: number, newId: string): Promise<Proposal>;
  tell(id: string, as: StitchKind, role: StitchRole): Promise<Proposal>;
  readAnew(ids?: readonly string[]): Promise<Rereading>;
  /**
   * Sews objects anew, as one step called `name`; a new thread may go with them. Where the drawing worker waits for them as program `coming`, it
   * gets them from here.
   */
  sewSpecs(name: string, edits: readonly SpecEdit[], target?: Target, coming?: ComingProgram): Promise<SewnTrial | SpecRefusal>;
  /** Measures what `sewSpecs` sewed last; nothing where the design has changed since. */
  measureSewn(): Promise<Trial | undefined>;
  /** What fits the design, or one color of it, to another thread. */
  adaptThread(thread: ThreadType, way: AdaptWay, scope?: AdaptScope): Promise<ThreadAdaption>;
  /** Which fills to open up until the design keeps to a number of stitches. */
  proposeOpening(budget: number): Promise<OpeningProposal>;
  /** Where penetrations will lie once the cloth has given way, and where it will show between objects. */
  predict(side: Side): Promise<Prediction | undefined>;
}

/** The engine as the page sees it. */
export interface EngineWorkerApi extends EngineApi {
  /** A port to the drawing worker; with that a job is in hand. */
  connect(port: MessagePort): Promise<void>;
  /** Opens small designs until a job is in hand, so that this one is opened fast. */
  rehearse(): Promise<void>;
}
