import type { z } from 'zod';
import { fail, type Result, succeed } from '../../model/result.ts';
import { reachOf } from './bitSums.ts';
import { type LayoutAxis, type LayoutCommand, MachineLayout, rangeOf, widthOf } from './machineLayout.ts';

/** What is wrong with a layout: where in its JSON, and what. */
export interface LayoutProblem {
  readonly at: string;
  readonly message: string;
}

/** Bytes that are looked at together are no more than this many bits, so that all of their values can be tried. */
const MOST_BITS = 16;

/** A layout from JSON, or all that is wrong with it: what is no layout, and what contradicts itself. */
export function readLayout(value: unknown): Result<MachineLayout, readonly LayoutProblem[]> {
  const read = MachineLayout.safeParse(value);
  if (!read.success) return fail(read.error.issues.flatMap(sayIssue));
  const problems = checkLayout(read.data);
  return problems.length === 0 ? succeed(read.data) : fail(problems);
}

/** An issue in words; of a choice of shapes what the nearest one lacks. */
function sayIssue(issue: z.core.$ZodIssue): LayoutProblem[] {
  if (issue.code === 'invalid_union') {
    const nearest = [...issue.errors].sort((a, b) => a.length - b.length)[0] ?? [];
    return nearest.flatMap((one) => sayIssue({ ...one, path: [...issue.path, ...one.path] }));
  }
  return [{ at: issue.path.join('.') || 'layout', message: issue.message }];
}

/** What in a layout contradicts itself. */
export function checkLayout(layout: MachineLayout): LayoutProblem[] {
  return [...checkHeader(layout), ...checkAxes(layout), ...checkCommands(layout)];
}

function checkHeader({ header, end }: MachineLayout): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  const spans = header.fields.map((field, k) => {
    const length = 'text' in field ? new TextEncoder().encode(field.text).length : 'as' in field ? widthOf(field.as) : field.length;
    return { at: `header.fields.${k}`, from: field.at, to: field.at + length };
  });
  if (header.colors !== undefined)
    spans.push({ at: 'header.colors', from: header.colors.at, to: header.colors.at + 3 * header.colors.max });
  for (const [k, { at, from, to }] of spans.entries()) {
    if (to > header.length) problems.push({ at, message: `it ends at byte ${to}, and the header has ${header.length}` });
    const other = spans.slice(0, k).find((one) => one.from < to && from < one.to);
    if (other !== undefined) problems.push({ at, message: `it lies on ${other.at}, at byte ${Math.max(from, other.from)}` });
  }
  if (end === 'count' && !header.fields.some((field) => 'of' in field && field.of === 'records'))
    problems.push({ at: 'end', message: 'no field of the header says how many records there are' });
  return problems;
}

/** The bits of a record that an axis takes: byte × 8 + bit. */
function bitsOf(axis: LayoutAxis): number[] {
  if ('bits' in axis) return axis.bits.map(({ byte, bit }) => byte * 8 + bit);
  return Array.from({ length: widthOf(axis.as) * 8 }, (_, k) => axis.at * 8 + k);
}

/** The least and the largest count that an axis holds. */
export function axisRange(axis: LayoutAxis): readonly [least: number, most: number] {
  if (!('bits' in axis)) return rangeOf(axis.as);
  const { least, most } = reachOf(axis.bits);
  return [least, most];
}

function checkAxes({ record, longest, mmPerCount }: MachineLayout): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  const taken = new Map<number, string>();
  for (const name of ['x', 'y'] as const) {
    const at = `record.${name}`;
    const axis = record[name];
    const bits = bitsOf(axis);
    const beyond = bits.find((bit) => bit >= record.length * 8);
    if (beyond !== undefined) problems.push({ at, message: `byte ${beyond >> 3} is beyond the record's ${record.length}` });
    for (const bit of bits) {
      const other = taken.get(bit);
      if (other !== undefined) problems.push({ at, message: `bit ${bit & 7} of byte ${bit >> 3} belongs to ${other} already` });
      taken.set(bit, at);
    }
    const gap = 'bits' in axis ? reachOf(axis.bits).gap : undefined;
    if (gap !== undefined) problems.push({ at, message: `its weights make no ${gap}, so such a step cannot be written` });
    const [least, most] = axisRange(axis);
    const counts = Math.floor(longest / mmPerCount);
    if (axis.relative && gap === undefined && (most < counts || -least < counts))
      problems.push({ at, message: `it holds ${least} to ${most}, and the longest move takes ±${counts} (${longest} mm)` });
    if (axis.relative && most < 1) problems.push({ at, message: 'it cannot hold a step forth' });
    if (axis.relative && least > -1) problems.push({ at, message: 'it cannot hold a step back' });
  }
  return problems;
}

function checkCommands({ record, longMove, end }: MachineLayout): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  const { commands } = record;
  const ofCoordinates = new Map([
    ...bitsOf(record.x).map((bit) => [bit, 'x'] as const),
    ...bitsOf(record.y).map((bit) => [bit, 'y'] as const),
  ]);
  const masked = new Set<number>();
  commands.forEach((one, k) => {
    const at = `record.commands.${k}`;
    if ('prefix' in one) {
      const other = commands.slice(0, k).find((before) => 'prefix' in before && before.prefix.every((byte, n) => one.prefix[n] === byte));
      if (other !== undefined) problems.push({ at, message: `it begins as ${other.command} does, which would be read first` });
      return;
    }
    if (one.byte >= record.length) problems.push({ at, message: `byte ${one.byte} is beyond the record's ${record.length}` });
    if ((one.value & ~one.mask) !== 0) problems.push({ at, message: `value ${one.value} has bits that mask ${one.mask} does not look at` });
    if (one.repeat !== undefined && (one.command === 'stitch' || one.command === 'jump'))
      problems.push({ at, message: `a ${one.command} moves, and what is repeated stands in place` });
    for (let bit = 0; bit < 8; bit++) {
      if ((one.mask & (1 << bit)) === 0) continue;
      const axis = ofCoordinates.get(one.byte * 8 + bit);
      if (axis !== undefined)
        problems.push({ at, message: `bit ${bit} of byte ${one.byte} belongs to ${axis}: masks may not lie on coordinates` });
      masked.add(one.byte * 8 + bit);
    }
    const same = commands.slice(0, k).find((before) => !('prefix' in before) && before.repeat === undefined && covers(before, one));
    if (same !== undefined) problems.push({ at, message: `it is never reached: ${same.command} before it takes all that it would` });
  });
  const has = (command: string): boolean => commands.some((one) => one.command === command);
  if (!has('stitch')) problems.push({ at: 'record.commands', message: 'no record is a stitch' });
  if (!has(longMove)) problems.push({ at: 'longMove', message: `long moves are ${longMove}s, and no record is one` });
  if (end === 'command' && !has('end')) problems.push({ at: 'end', message: 'no record is the end' });
  const open = problems.length === 0 ? firstOpen(commands, [...masked]) : undefined;
  if (open !== undefined) problems.push({ at: 'record.commands', message: open });
  return problems;
}

type Masked = Exclude<LayoutCommand, { prefix: unknown }>;

/** Whether all records that `other` would take go to `one` before it. */
const covers = (one: Masked, other: Masked): boolean =>
  one.byte === other.byte && (one.mask & ~other.mask) === 0 && (other.value & one.mask) === one.value;

/** A value of the masked bits that leads to no command, in words. */
function firstOpen(commands: readonly LayoutCommand[], bits: readonly number[]): string | undefined {
  if (bits.length > MOST_BITS) return `commands look at ${bits.length} bits; more than ${MOST_BITS} are not checked`;
  const single = commands.filter((one): one is Masked => !('prefix' in one) && one.repeat === undefined);
  for (let n = 0; n < 1 << bits.length; n++) {
    const bytes = new Map<number, number>();
    bits.forEach((bit, k) => {
      if ((n & (1 << k)) !== 0) bytes.set(bit >> 3, (bytes.get(bit >> 3) ?? 0) | (1 << (bit & 7)));
    });
    if (single.some(({ byte, mask, value }) => ((bytes.get(byte) ?? 0) & mask) === value)) continue;
    const where = [...new Set(bits.map((bit) => bit >> 3))].map((byte) => `byte ${byte} with ${bytes.get(byte) ?? 0}`);
    return `${where.join(', ')} leads to no command: every value that is masked has to lead to one`;
  }
  return undefined;
}
