import type { ClockEvent, Connector, Program } from '@isola/core';
import { UNNAMED_THREAD } from '@isola/core';
import { HOWS } from '../order/sayWays.ts';

/** Where objects are sewn: the first and last row of each, and what it is called. */
export interface SewnSpan {
  readonly id: string;
  readonly name: string;
  readonly first: number;
  readonly last: number;
}

/** What the machine does in a piece of time that sews nothing, and why, in words. `spans` in sewing order. */
export function sayEvent(event: ClockEvent, program: Program, spans: readonly SewnSpan[], connectors: readonly Connector[]): string {
  const seconds = `${(event.end - event.start).toFixed(1)} s`;
  const after = spans.find(({ first }) => first > event.last);
  const before = spans.findLast(({ last }) => last < event.first);
  if (event.kind === 'color') return `thread change to ${nameOf(program, event.thread)}, ${seconds}`;
  if (event.kind === 'stop') return `stop, ${seconds}: ${program.notes.get(event.first) || 'nothing said to the operator'}`;
  const what = event.kind === 'trim' ? HOWS.trim : 'move';
  if (after === undefined || before === undefined) return `${what}, ${seconds}`;
  const way = connectors.find(({ to }) => to === after.id);
  const where = `${before.name} → ${after.name}`;
  if (way === undefined) return `${what}, ${seconds}: ${where}, where the thread changes`;
  return `${what}, ${seconds}: ${where}, ${way.length.toFixed(1)} mm${way.length <= NEAR ? ': one stitch would carry over' : ''}`;
}

/** Common practice: up to here one stitch carries over, mm. */
const NEAR = 2;

function nameOf({ threads }: Program, thread: number): string {
  const { name, color } = threads[thread] ?? UNNAMED_THREAD;
  return name === '' ? color : name;
}
