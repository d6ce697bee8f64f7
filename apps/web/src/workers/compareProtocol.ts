import type { Extents, ObjectChange, Program, SamplePlace, Severity, Target } from '@isola/core';
import type { DesignView } from './viewProtocol.ts';

/** Two states beside each other, measured on the present target. Their views have objects, where these are known, and no findings. */
export interface Comparison {
  readonly one: DesignView;
  readonly other: DesignView;
  /** None where the objects of one of them are not known. */
  readonly changes: readonly ObjectChange[] | undefined;
}

/** What takes longer to know of a state: K of its densest spot, its widest gap (estimated, mm), and how many findings are left. */
export interface JudgedSide {
  readonly maxCover: number;
  /** None where its objects are not known, as of findings. */
  readonly widestGap: number | undefined;
  readonly findings: Readonly<Record<Severity, number>> | undefined;
}
export type Judged = Readonly<Record<'one' | 'other', JudgedSide>>;

/**
 * What has to be brought before a state can be looked at: what the steps begin with ({@link EngineApi.takeStart}), the whole journal
 * ({@link EngineApi.reachBack}), or the rows of a revision ({@link EngineApi.takeKept}).
 */
export type StateNeeds = 'start-needed' | 'journal-needed' | 'kept-needed';

/** A state that a sample is sewn of, on the target of that time, and where it is best measured. */
export interface SampledState {
  readonly view: DesignView;
  readonly places: readonly SamplePlace[];
}

/** What a small picture of a state is drawn from. The arrays are the receiver's own. */
export interface StatePicture {
  readonly program: Program;
  readonly target: Target;
  readonly extents: Extents;
  readonly stitches: number;
}
