import { type Design, inspectProgram, layLengths, type Program, runClock } from '@isola/core';
import { transfer } from 'comlink';
import type { DesignView, Opened } from './protocol.ts';

/** Rows on a target without findings and objects, which take longest: for what came in, and for what is shown while a slider moves. */
export function lightView(
  program: Program,
  { target, kept }: Pick<Design, 'target' | 'kept'>,
  maxCover: number,
  lengths = layLengths(program),
): DesignView {
  const clock = runClock(program, target.machine, lengths);
  return {
    ...{ program: copyOf(program), target, kept, figures: inspectProgram(program, target, lengths, clock) },
    ...{ isAudited: false, findings: [], objects: undefined, events: clock.events, done: clock.done, totals: clock.totals, maxCover },
  };
}

/** A copy for another worker, which takes its arrays over. */
export function handOver(program: Program): Program {
  const copy = copyOf(program);
  return transfer(copy, [copy.x.buffer, copy.y.buffer, copy.command.buffer] as ArrayBuffer[]);
}

export function copyOf(program: Program): Program {
  return { ...program, x: program.x.slice(), y: program.y.slice(), command: program.command.slice() };
}

export function buffersOf({ program, done, objects }: DesignView): ArrayBuffer[] {
  const owners = objects === undefined ? [] : [objects.ownerOfRow.buffer];
  return [program.x.buffer, program.y.buffer, program.command.buffer, done.buffer, ...owners] as ArrayBuffer[];
}

export function buffersOfAll({ now, before }: Opened): ArrayBuffer[] {
  return [...buffersOf(now), ...(before === undefined ? [] : buffersOf(before))];
}
