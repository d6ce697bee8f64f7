import type { FileProblem } from '@isola/core';

// What can go wrong with jobs and the shop, as their services know it. How it is answered is said in one place, problem.ts.

/** Something is not there. */
export class NotFound extends Error {
  constructor(what: string) {
    super(`There is no ${what}; it may have been deleted.`);
  }
}

/** A file cannot be read as stitches: what, where, and what was expected. */
export class UnreadableFile extends Error {
  readonly fileName: string;
  readonly problem: FileProblem;

  constructor(fileName: string, problem: FileProblem) {
    super(`${fileName}: ${problem.message}`);
    this.fileName = fileName;
    this.problem = problem;
  }
}

/** Somebody else was first. `version` is what the job is at, where that was asked, and `known` how many of the entries sent it has already. */
export class ChangedElsewhere extends Error {
  readonly version: number | undefined;
  readonly known: number;

  constructor(detail: string, version?: number, known = 0) {
    super(detail);
    this.version = version;
    this.known = known;
  }
}

/** Others touched what steps touch that were made without knowing that; `overlap` says what, where it is known. */
export class TouchesTheSame extends Error {
  readonly overlap: readonly string[];

  constructor(overlap: readonly string[]) {
    super('Others changed what these steps change, too.');
    this.overlap = overlap;
  }
}

/** What was sent contradicts itself or what is stored. */
export class DoesNotFit extends Error {}

/** A step does not fit the design that it was made for. */
export class StepDoesNotFit extends Error {}

/** Somebody is not who they say, or may not do this. */
export class NotAllowed extends Error {}

/** Somebody tries too often; `seconds`: after which they may again. */
export class TooOften extends Error {
  readonly seconds: number;

  constructor(seconds: number) {
    super(`That was tried too often. Wait ${seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`}, then try again.`);
    this.seconds = seconds;
  }
}

/** The shop's files take all the room that they may. */
export class NoRoom extends Error {
  constructor(taken: number, gigabytes: number) {
    super(
      `Files and photos of the shop take ${taken.toFixed(1)} of the ${gigabytes} GB that they may. Delete what is not needed, or have QUOTA_GB set higher.`,
    );
  }
}

/** A release waits for findings of severity stop. */
export class NotReady extends Error {}

/** A file is to leave though findings of severity stop are open, and nobody signed for that. */
export class NotSigned extends Error {
  constructor(stops: readonly string[]) {
    super(`Somebody has to sign for it with a reason, on Release, since this stands against it: ${stops.join('; ')}.`);
  }
}
