/** The pool was closed before a task was done. */
export class PoolClosed extends Error {}

/** A task was given up because of its time. */
export class TookTooLong extends Error {
  readonly seconds: number;

  constructor(seconds: number) {
    super(`not done within ${seconds} s`);
    this.seconds = seconds;
  }
}

/** A task was given up because of its memory. */
export class TookTooMuch extends Error {
  readonly megabytes: number;

  constructor(megabytes: number) {
    super(`not done within ${megabytes} MB`);
    this.megabytes = megabytes;
  }
}

/** Too much waits already. */
export class Busy extends Error {
  /** Seconds after which it may be tried again. */
  readonly again: number;

  constructor(again: number) {
    super('too much waits already');
    this.again = again;
  }
}

/** The process that a task was given to ended. */
export class WorkerDied extends Error {
  constructor() {
    super('the process of this computation ended');
  }
}

/** Who asked does not wait any more. */
export class GivenUp extends Error {
  constructor() {
    super('given up by who asked');
  }
}
