import type {
  Block,
  ClockEvent,
  CoverMap,
  Figures,
  Finding,
  KeptFinding,
  Layer,
  Program,
  RunTotals,
  StitchObject,
  Target,
} from '@isola/core';

/** A design as the screens need it: its rows, and what was measured on them. The arrays are the receiver's own. */
export interface DesignView {
  readonly program: Program;
  readonly target: Target;
  readonly kept: Readonly<Record<string, KeptFinding>>;
  readonly figures: Figures;
  /** Whether findings, objects and `maxCover` are those of this design; a job that was just opened is shown before they are known. */
  readonly isAudited: boolean;
  /** The open ones. Their `rows` are the first few hundred only: all of them would take longer to hand over than the rest together. */
  readonly findings: readonly Finding[];
  /** Of the present design alone. */
  readonly objects: ObjectsView | undefined;
  readonly events: readonly ClockEvent[];
  /** Seconds at which each row is done. */
  readonly done: Float64Array;
  readonly totals: RunTotals;
  /** K of the densest spot. */
  readonly maxCover: number;
}

/** The objects of a design as the screens need them. The arrays are the receiver's own. */
export interface ObjectsView {
  readonly objects: readonly StitchObject[];
  /** For each row the index of its object, −1 where it has none. */
  readonly ownerOfRow: Int32Array;
  /** What is sewn with which thread, in order; underlay, travel and ties are not named. */
  readonly blocks: readonly Block[];
}

/** Which cover lies on which, by their indices, and how many lie under each object. */
export interface LayersView {
  readonly layers: readonly Layer[];
  readonly levels: Int32Array;
}

/** A cover map as it is drawn. */
export type ShownCover = Omit<CoverMap, 'laid'>;
