import { createWalk } from '../generate/fill/walker.ts';
import { containsPoint, distanceToRings } from '../geometry/ring.ts';
import { type Tie } from '../model/kinds.ts';
import type { ObjectShape } from '../model/objectSpec.ts';
import { entryEnd, exitEnd, type LaidPath, type Link, type PlanObject, readRows, type Sewn, type WayEnd } from '../model/plan.ts';
import type { ProgramBuilder } from '../model/program.ts';
import { COLOR, END, JUMP, type Program, type ProgramThread, STITCH, TRIM } from '../model/program.ts';
import type { Point } from '../model/stitchObject.ts';
import { addLock, addStitch, CARRY, SAME_PLACE } from './joining.ts';
import { ringsOfShape } from './ringsOfShape.ts';
import { stopsOf } from './stops.ts';

/** What a way leads from and to. */
export interface Ends {
  readonly source: Program;
  /** None at the start of the design. */
  readonly before: PlanObject | null;
  /** None at its end. */
  readonly next: PlanObject | null;
  readonly link: Link;
  /** Another thread than is on the machine, to be put on under way. */
  readonly thread: ProgramThread | null;
}

/**
 * Adds the rows that lead from one object to the next: as found as far as both ends are where they were, made where they are not. Gives whether
 * they are all as found.
 */
export function sewWay(out: ProgramBuilder, ends: Ends): boolean {
  const { source, before, next, link } = ends;
  if (
    link.found === null ||
    link.found.after !== (before?.id ?? null) ||
    link.way !== 'as-found' ||
    link.stop !== undefined ||
    link.isAnew === true
  ) {
    sewNewWay(out, ends);
    return false;
  }
  const { program, first, end } = readRows(source, link.found.rows);
  const hasOldExit = isSameEnd(link.found.from, before === null ? null : exitEnd(source, before.sewn));
  const hasOldEntry = isSameEnd(link.found.to, next === null ? null : entryEnd(next.sewn));
  if (hasOldExit && hasOldEntry) {
    out.copy(program, first, end);
    return true;
  }
  const gap = findGap(program, first, end);
  if (gap === undefined) {
    if (next === null) lockHere(out, before);
    else connect(out, source, before, next);
    return false;
  }
  const isCut = cutsThread(program, gap.first, gap.end);
  if (hasOldExit) out.copy(program, first, gap.first);
  else if (isCut) lockHere(out, before);
  if (next === null) {
    out.copy(program, gap.first, end);
    return false;
  }
  if (hasOldEntry) {
    out.copy(program, gap.first, end);
    return false;
  }
  // A jump to where the object used to begin gives way to one to where it begins.
  let last = gap.end;
  while (last > gap.first && program.command[last - 1] === JUMP) last--;
  out.copy(program, gap.first, last);
  if (last < gap.end) out.jump(next.sewn.start.x, next.sewn.start.y);
  comeDown(out, source, next, isCut || before === null);
  return false;
}

function isSameEnd(a: WayEnd | null, b: WayEnd | null): boolean {
  return a === b || (a !== null && b !== null && a.x === b.x && a.y === b.y && a.tie === b.tie);
}

/** From the first to behind the last row that is no stitch. */
function findGap({ command }: Program, first: number, end: number): { first: number; end: number } | undefined {
  let from = first;
  while (from < end && command[from] === STITCH) from++;
  if (from === end) return undefined;
  let to = end;
  while (command[to - 1] === STITCH) to--;
  return { first: from, end: to };
}

function cutsThread({ command }: Program, first: number, end: number): boolean {
  for (let i = first; i < end; i++) if (command[i] === TRIM || command[i] === COLOR || command[i] === END) return true;
  return false;
}

/** The way between objects that were not neighbours, or between which another way was chosen. */
function sewNewWay(out: ProgramBuilder, { source, before, next, link, thread }: Ends): void {
  if (next === null) {
    endSewing(out, source, before, link);
    return;
  }
  const { start } = next.sewn;
  const isHeld = before !== null && out.commandAt() === STITCH;
  // What the operator is told to do before an object goes with it wherever it is sewn.
  const stops = stopsOf(source, link);
  if (thread !== null || !isHeld || stops.length > 0) {
    if (isHeld) {
      lockHere(out, before);
      out.trim();
    }
    if (thread !== null) out.color(thread.color, thread.name);
    for (const note of stops) out.stop(note);
    out.jump(start.x, start.y);
    comeDown(out, source, next, true);
    return;
  }
  switch (link.way) {
    case 'as-found':
      connect(out, source, before, next);
      return;
    case 'carry':
      carry(out, next);
      return;
    case 'hidden':
    case 'open':
      if (!walkPath(out, next, link.path)) connect(out, source, before, next);
      return;
    case 'jump':
      out.jump(start.x, start.y);
      comeDown(out, source, next, false);
      return;
    case 'trim':
      cut(out, source, before, next);
  }
}

/** What ended the file ends it after another object, too. */
function endSewing(out: ProgramBuilder, source: Program, before: PlanObject | null, { found }: Link): void {
  const { program, first, end } = readRows(source, found?.rows ?? { first: source.rowCount, end: source.rowCount });
  const gap = findGap(program, first, end);
  if (out.commandAt() === STITCH) lockHere(out, before);
  if (gap !== undefined) out.copy(program, gap.first, end);
}

/** Sews on where the next object is near or can be walked to under what is sewn; cuts the thread otherwise. */
function connect(out: ProgramBuilder, source: Program, before: PlanObject | null, next: PlanObject): void {
  const { x, y } = out.placeAt();
  const { start } = next.sewn;
  const gap = Math.hypot(start.x - x, start.y - y);
  if (gap <= CARRY || before === null) {
    carry(out, next);
    return;
  }
  const way = walkUnder(before.sewn.made?.shape, x, y, start) ?? walkUnder(next.sewn.made?.shape, x, y, start);
  if (way === undefined) {
    cut(out, source, before, next);
    return;
  }
  for (let k = 0; k < way.length; k += 2) addStitch(out, way[k]!, way[k + 1]!);
  out.stitch(start.x, start.y);
}

/** Sews along a path that was laid, unless an end of it is elsewhere now. */
function walkPath(out: ProgramBuilder, { sewn: { start } }: PlanObject, path: LaidPath | undefined): boolean {
  const { x, y } = out.placeAt();
  if (path === undefined || !isNear(path.from, { x, y }) || !isNear(path.to, start)) return false;
  for (let k = 0; k + 1 < path.points.length; k += 2) addStitch(out, path.points[k]!, path.points[k + 1]!);
  out.stitch(start.x, start.y);
  return true;
}

function isNear(a: Point, b: Point): boolean {
  return Math.hypot(a.x - b.x, a.y - b.y) <= SAME_PLACE;
}

/** One stitch leads over, or none where the object's first stitch does that by itself. */
function carry(out: ProgramBuilder, { sewn }: PlanObject): void {
  const { x, y } = out.placeAt();
  const { start, isOwnStart } = sewn;
  const gap = Math.hypot(start.x - x, start.y - y);
  if (gap > (isOwnStart ? SAME_PLACE : CARRY)) out.stitch(start.x, start.y);
}

function cut(out: ProgramBuilder, source: Program, before: PlanObject | null, next: PlanObject): void {
  lockHere(out, before);
  out.trim();
  out.jump(next.sewn.start.x, next.sewn.start.y);
  comeDown(out, source, next, true);
}

/** The needle comes down at an object's start; a thread that starts there is locked along its first stitch. */
function comeDown(out: ProgramBuilder, source: Program, { sewn }: PlanObject, isStart: boolean): void {
  const { start } = sewn;
  out.stitch(start.x, start.y);
  const { program, first, end } = readRows(source, sewn.rows);
  if (isStart && end > first) addLock(out, out.placeAt(), { x: program.x[first]!, y: program.y[first]! }, tieOf(sewn));
}

function lockHere(out: ProgramBuilder, before: PlanObject | null): void {
  if (out.commandAt() === STITCH && out.commandAt(1) === STITCH)
    addLock(out, out.placeAt(), out.placeAt(1), before === null ? 'to-and-fro' : tieOf(before.sewn));
}

function tieOf({ made }: Sewn): Tie {
  return made?.spec.tie ?? 'to-and-fro';
}

function walkUnder(shape: ObjectShape | undefined, x: number, y: number, to: Point): Float64Array | undefined {
  const rings = shape === undefined ? [] : ringsOfShape(shape);
  // Only what begins and ends in the shape, or one stitch beside it, is walked under it.
  const isThere = (px: number, py: number): boolean => containsPoint(rings, px, py) || distanceToRings(rings, px, py) <= CARRY;
  return rings.length === 0 || !isThere(x, y) || !isThere(to.x, to.y) ? undefined : createWalk(rings)(x, y, to.x, to.y);
}
