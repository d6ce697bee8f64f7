export const SEVERITIES = ['stop', 'fix', 'note'] as const;
/** `stop`: will fail or cannot be sewn. `fix`: costs time or quality. `note`: untidy, or worth knowing. */
export type Severity = (typeof SEVERITIES)[number];

export interface Place {
  readonly x: number;
  readonly y: number;
}

/** One place of a finding, by which it can be settled alone. */
export interface FindingPlace extends Place {
  /** The same for the same fault of the same object after other edits: rule, object, place. */
  readonly key: string;
  /** The id of the object that it is in, where objects are known. */
  readonly object?: string;
}

/** What a fault costs on one piece as it stands: what its repair would save. Negative where the repair adds. An estimate. */
export interface Price {
  readonly seconds: number;
  readonly stitches: number;
}

/** One thing wrong, at one place or at several places of one kind; places that were settled are not among them. Lengths in mm. */
export interface Finding {
  /** The rule, and the thread that its faults are gathered by. */
  readonly key: string;
  readonly rule: string;
  readonly severity: Severity;
  /** Ids of objects that it concerns, in sewing order, up to {@link MOST_NAMED}; empty while a file's objects are not known. */
  readonly objects: readonly string[];
  /** The rows it was found at (color rows counted, from 0), ascending, and the first and last of them. */
  readonly rows: readonly number[];
  readonly first: number;
  readonly last: number;
  /** Where to look first, and all places, as `rows` are. */
  readonly at: Place;
  readonly places: readonly FindingPlace[];
  readonly measured: number;
  readonly limit: number;
  readonly unit: string;
  /** The fault in a sentence, and what it does on this job. */
  readonly message: string;
  readonly reason: string;
  readonly cost: Price;
  /** What the repair does, where Isola can do it. */
  readonly fix?: string;
  /** What to do, where it cannot. */
  readonly advice?: string;
}

/** A finding names no more objects than this. */
export const MOST_NAMED = 24;
