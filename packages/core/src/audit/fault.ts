/** One place where a rule is broken: by program row, mm. */
export interface Fault {
  readonly row: number;
  readonly x: number;
  readonly y: number;
  /** The object that it is a fault of, where that is not told by the row; and the other one of a pair. */
  readonly object?: string;
  readonly other?: string;
  /** Its object may have several such faults, which are settled one by one: they are told apart by their places. */
  readonly isOneOfSeveral?: true;
}
