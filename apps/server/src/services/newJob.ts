import type { MachineLayout, Target } from '@isola/core';
import type { ReadAnswer } from '../workers/protocol.ts';

export interface NewJob {
  readonly fileName: string;
  readonly bytes: Buffer;
  readonly target: Target;
  readonly name: string;
  readonly customer?: string;
  readonly due?: string | null;
  /** By which a machine's own file is read. */
  readonly layout?: MachineLayout | undefined;
  /** By which the same request is known when it is sent again. */
  readonly key?: string | undefined;
}

/** A file that was read, before anything of it is stored. */
export interface ReadJob {
  readonly job: NewJob;
  readonly read: ReadAnswer;
}
