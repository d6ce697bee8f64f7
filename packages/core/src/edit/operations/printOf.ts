import { type ObjectId, type Plan, readRows, type Sewn } from '../../model/plan.ts';
import type { Program } from '../../model/program.ts';
import { remember } from '../../model/remember.ts';

/** FNV-1a, 32 bit (Fowler, Noll, Vo 1991). */
const BASIS = 0x811c9dc5;
const PRIME = 0x01000193;

/** A short text that stands for how an object is sewn: the same for the same rows, another one for all practical purposes for others. */
export function printOf({ source, objects }: Plan, id: ObjectId): string {
  return prints(source)(objects[id]!.sewn);
}

const prints = remember((source: Program) => remember((sewn: Sewn) => print(source, sewn)));

function print(source: Program, { rows, start }: Sewn): string {
  const { program, first, end } = readRows(source, rows);
  return printRows(program, first, end, start);
}

/** The same for rows of a program, from `first` to before `end`. */
export function printRows({ x, y, command }: Program, first: number, end: number, start = { x: 0, y: 0 }): string {
  let hash = BASIS;
  const numbers = new Float64Array(2);
  const bytes = new Uint8Array(numbers.buffer);
  const take = (px: number, py: number, kind: number): void => {
    numbers.set([px + 0, py + 0]);
    for (const byte of bytes) hash = Math.imul(hash ^ byte, PRIME);
    hash = Math.imul(hash ^ kind, PRIME);
  };
  take(start.x, start.y, 0);
  for (let i = first; i < end; i++) take(x[i]!, y[i]!, command[i]!);
  return `${end - first}-${(hash >>> 0).toString(36)}`;
}

/** A short text that stands for an order: which objects are sewn in which blocks, with which threads. */
export function printOrder({ blocks }: Pick<Plan, 'blocks'>): string {
  return printBlocks(blocks, (thread) => (thread === null ? null : [thread.color, thread.name]));
}

/** Whether a text stands for an order; also one that was made when the fields of a thread were printed as they came. */
export function isPrintOfOrder({ blocks }: Pick<Plan, 'blocks'>, print: string): boolean {
  return (
    printOrder({ blocks }) === print ||
    printBlocks(blocks, (thread) => thread && { color: thread.color, name: thread.name }) === print ||
    printBlocks(blocks, (thread) => thread && { name: thread.name, color: thread.color }) === print
  );
}

function printBlocks(blocks: Plan['blocks'], sayThread: (thread: Plan['blocks'][number]['thread']) => unknown): string {
  let hash = BASIS;
  for (const character of JSON.stringify(blocks.map(({ id, thread, keep, objects }) => [id, sayThread(thread), keep, objects])))
    hash = Math.imul(hash ^ character.charCodeAt(0), PRIME);
  return (hash >>> 0).toString(36);
}
