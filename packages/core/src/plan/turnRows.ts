import { type Plan, readRows, type Sewn } from '../model/plan.ts';
import { ProgramBuilder, STITCH } from '../model/program.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { turned } from '../generate/column/columns.ts';

/** Ends nearer than this (mm) are one place. */
const CLOSED = 0.3;

/**
 * An object's own stitches begun at another of their penetrations (0 is where it starts now) or gone over from the other end. Only what is sewn in
 * one go, without underlay or ways inside, can be turned so; and it begins elsewhere than at an end only where its ends meet.
 */
export function turnRows({ source }: Pick<Plan, 'source'>, sewn: Sewn, from: number, isReversed: boolean): Result<Sewn, string> {
  const { program, first, end } = readRows(source, sewn.rows);
  const { reading, parts, start } = sewn;
  const count = end - first;
  if (parts.length > 0 || reading.spans.length > 1 || reading.underlay.length > 0)
    return fail('it is sewn in parts that follow each other: underlay or ways inside');
  for (let i = first; i < end; i++)
    if (program.command[i] !== STITCH || program.notes.has(i)) return fail('its thread is cut or stopped inside');
  const points = [start, ...Array.from({ length: count }, (_, k) => ({ x: program.x[first + k]!, y: program.y[first + k]! }))];
  const last = points[count]!;
  const isClosed = Math.hypot(last.x - start.x, last.y - start.y) <= CLOSED;
  if (from < 0 || from > count) return fail(`it has ${count + 1} penetrations, counted from 0`);
  if (!isClosed && from !== (isReversed ? count : 0)) return fail('its ends do not meet, so it can begin at one of them only');
  const way = isReversed ? [...points].reverse() : points;
  const at = isReversed ? count - from : from;
  const order = at === 0 ? way : [...way.slice(at), ...way.slice(1, at + 1)];
  const out = new ProgramBuilder(count);
  for (const { x, y } of order.slice(1)) out.stitch(x, y);
  const whole = { first: 0, last: count - 1 };
  const turnedReading: StitchObject = {
    ...reading,
    ...whole,
    spans: [whole],
    stitches: count,
    entry: order[0]!,
    exit: order[count]!,
    ...(isReversed && reading.path !== undefined ? { path: turned(reading.path) } : {}),
  };
  return succeed({ ...sewn, rows: out.build(), start: { x: order[0]!.x, y: order[0]!.y }, isOwnStart: true, reading: turnedReading });
}
