/** Said to all pages, as server-sent events, when a job was changed: the version that it is at; none: it was deleted. */
export interface JobChange {
  readonly id: string;
  readonly version: number | null;
  /** Who made the steps that led to it, where people sign in. */
  readonly who?: string | null;
}

/** Somebody has a job open in a window of theirs; said again while they do. */
export interface Presence {
  /** Of the window. */
  readonly page: string;
  /** Null where people do not sign in. */
  readonly who: string | null;
  /** The stage of the work that they look at. */
  readonly stage: string;
}

/** Said to all pages when somebody opens or leaves a job, or goes to another stage of it. */
export interface PresenceChange {
  readonly id: string;
}
