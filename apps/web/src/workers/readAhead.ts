import { type Design, orderOf, readObjectSpec } from '@isola/core';

/** So long (ms) specs are read before other work of this thread comes in between, and so long it is left alone then. */
const WORK = 12;
const REST = 10;

/**
 * Reads the specs of a design's objects while this thread has nothing else to do, since each is read once and what sews objects anew (orders, repairs)
 * waits for them. Ends by itself where `isCurrent` says that another design is in hand.
 */
export async function readAhead(design: Design, isCurrent: () => boolean): Promise<void> {
  let started = performance.now();
  for (const id of orderOf(design.plan)) {
    if (performance.now() - started > WORK) {
      await new Promise((resolve) => setTimeout(resolve, REST));
      started = performance.now();
    }
    if (!isCurrent()) return;
    readObjectSpec(design, id);
  }
}
