import type { Design } from '../../model/design.ts';
import type { Patch } from '../../model/patch.ts';
import type { ObjectId } from '../../model/plan.ts';
import { JUMP, type Program, rowAt, STITCH } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { PatchRow } from '../../model/rowValue.ts';
import { generateLock } from '../../generate/line/tie.ts';
import { containsPoint } from '../../geometry/ring.ts';
import { roundToThousandth } from '../../geometry/number.ts';
import { assemble } from '../../plan/assemble.ts';
import { CARRY } from '../../plan/joining.ts';
import { objectsOf } from '../../plan/objectsOf.ts';
import { sayCount } from '../../words/sayCount.ts';
import { operationsOfPatches } from '../operationsOfPatches.ts';
import { printOf } from '../operations/printOf.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { respaced, smoothed, straightened, stretchesOf } from './evenOut.ts';
import type { PointsAsk } from './pointsAsk.ts';
import { patchesOf, type RowChanges } from './rowChanges.ts';

export interface EditedPoints {
  /** In the order they apply, as one step. */
  readonly operations: readonly SimpleOperation[];
  readonly design: Design;
  /** What had to be said, in words. */
  readonly notes: readonly string[];
  /** Where the rows that were asked for, and are still there, are now; of one that was set, where that is. */
  readonly rows: readonly number[];
}

type Changes = Map<number, readonly PatchRow[]>;

/** Moves, adds, deletes or turns single penetrations, as operations on the objects and ways that they belong to; refused with the place where that cannot be. */
export function editPoints(design: Design, ask: PointsAsk): Result<EditedPoints, string> {
  const { program, target } = design;
  const strange = ('rows' in ask ? ask.rows : [ask.row]).find((row) => program.command[row] !== STITCH && program.command[row] !== JUMP);
  if (strange !== undefined) return fail(`row ${strange} is no stitch and no jump`);
  const notes: string[] = [];
  const changed = changesOf(design, ask, notes);
  if (!changed.ok) return changed;
  const { wholes, changes } = withoutWholes(design, changed.value);
  if (changes.size === 0 && wholes.length === 0) return fail('nothing would change');
  const made = patchesOf(program, changes, target.machine.maxStitch, 'long' in ask ? ask.long : 'split');
  if (!made.ok) return made;
  const { parted, longest, patches } = made.value;
  if (parted > 0)
    notes.push(
      `${sayCount(parted)} ${parted === 1 ? 'stitch was' : 'stitches were'} parted: up to ${longest.toFixed(1)} mm, where the machine makes ${target.machine.maxStitch} mm`,
    );
  const operations = [...operationsOfPatches(design.plan, patches)];
  let next = design;
  for (const operation of operations) {
    const applied = applyOperation(next, operation);
    if (!applied.ok) return applied;
    next = applied.value;
  }
  if (wholes.length > 0) {
    const removed: SimpleOperation = {
      id: 'remove-objects',
      objects: wholes.map((object) => ({ object, was: printOf(next.plan, object) })),
    };
    const applied = applyOperation(next, removed);
    if (!applied.ok) return applied;
    next = applied.value;
    operations.push(removed);
    notes.push(`${wholes.map((id) => design.plan.objects[id]!.name).join(', ')}: nothing was left of it, so it is taken out`);
  }
  if (ask.what === 'take-out') notes.push(...holesThere(design, ask.rows, wholes));
  const outside = outsideHoop(next);
  if (outside > outsideHoop(design)) notes.push(`${sayCount(outside)} penetrations lie outside the hoop ${target.hoop.name}`);
  const asked = 'rows' in ask ? ask.rows : [ask.row];
  const isNewAfter = ask.what === 'insert' && ask.side === 'after';
  const after = (row: number): number | undefined => made.value.rows.get(row) ?? (changes.has(row) ? undefined : shifted(row, patches));
  const rows = wholes.length > 0 ? [] : asked.flatMap((row) => after(row) ?? []).map((row) => row + (isNewAfter ? 1 : 0));
  return succeed({ operations, design: next, notes, rows });
}

/** Where a row that no patch takes away is after them. */
function shifted(row: number, patches: readonly Patch[]): number {
  return patches.reduce((sum, { at, removed, inserted }) => (at < row ? sum + inserted.length - removed.length : sum), row);
}

function changesOf(design: Design, ask: PointsAsk, notes: string[]): Result<Changes, string> {
  const { program } = design;
  const changes: Changes = new Map();
  const sorted = 'rows' in ask ? [...new Set(ask.rows)].sort((a, b) => a - b) : [];
  const place = (row: number, x: number, y: number): void => void changes.set(row, [{ ...rowAt(program, row), x, y } as PatchRow]);
  switch (ask.what) {
    case 'move':
      for (const row of sorted) place(row, roundToThousandth(program.x[row]! + ask.dx), roundToThousandth(program.y[row]! + ask.dy));
      return succeed(changes);
    case 'insert':
      return insert(program, ask);
    case 'delete':
      for (const row of sorted) changes.set(row, []);
      return succeed(changes);
    case 'jump':
    case 'stitch':
      for (const row of sorted) changes.set(row, [{ ...rowAt(program, row), command: ask.what } as PatchRow]);
      return succeed(changes);
    case 'cut':
      return cut(design, ask.row, notes);
    case 'smooth':
    case 'straighten': {
      const places = ask.what === 'smooth' ? smoothed(program, sorted) : straightened(program, sorted);
      if (places.size === 0) return fail('pick three penetrations or more that follow each other');
      for (const [row, [x, y]] of places) place(row, x, y);
      return succeed(changes);
    }
    case 'respace': {
      const stretches = stretchesOf(program, sorted).filter((stretch) => stretch.length > 1);
      if (stretches.length === 0) return fail('pick two penetrations or more that follow each other');
      for (const stretch of stretches) {
        const inner = respaced(program, stretch, ask.length).map(([x, y]): PatchRow => ({ command: 'stitch', x, y }));
        for (const row of stretch.slice(1, -1)) changes.set(row, []);
        const last = stretch.at(-1)!;
        changes.set(last, [...inner, rowAt(program, last) as PatchRow]);
      }
      return succeed(changes);
    }
    case 'take-out':
      return succeed(takeOut(program, sorted));
  }
}

function insert(program: Program, { row, side, at }: PointsAsk & { what: 'insert' }): Result<Changes, string> {
  const other = side === 'before' ? row - 1 : row + 1;
  const isThere = program.command[other] === STITCH || program.command[other] === JUMP;
  if (at === undefined && !isThere) return fail(`there is no stitch ${side} it to set one between: say where`);
  const [x, y] = at ?? [(program.x[row]! + program.x[other]!) / 2, (program.y[row]! + program.y[other]!) / 2];
  const own = rowAt(program, row) as PatchRow;
  const added: PatchRow = { command: 'stitch', x: roundToThousandth(x), y: roundToThousandth(y) };
  return succeed(new Map([[row, side === 'before' ? [added, own] : [own, added]]]));
}

/** Rows of a lock at a place, toward another. */
function lockAt(x: number, y: number, toX: number, toY: number): PatchRow[] {
  if (x === toX && y === toY) return [];
  const points = generateLock(x, y, toX, toY);
  return Array.from({ length: points.length / 2 }, (_, k) => ({
    command: 'stitch' as const,
    x: roundToThousandth(points[k * 2]!),
    y: roundToThousandth(points[k * 2 + 1]!),
  }));
}

/** Cuts the thread after a penetration: locked there, and where it goes on. Within a lock it is cut at that one's end. */
function cut(design: Design, asked: number, notes: string[]): Result<Changes, string> {
  const { program } = design;
  const { x, y, command } = program;
  const lock = objectsOf(design.plan).objects.find(({ role, first, last }) => role === 'tie' && first <= asked && asked <= last);
  const row = lock?.last ?? asked;
  if (lock !== undefined) notes.push('it lies in a lock: the thread is cut at its end');
  const next = row + 1;
  if (command[next] !== STITCH) return fail('the thread does not go on there: it is cut, jumps or ends already');
  const before = lock === undefined ? lockAt(x[row]!, y[row]!, x[row - 1] ?? x[next]!, y[row - 1] ?? y[next]!) : [];
  const after = command[next + 1] === STITCH ? lockAt(x[next]!, y[next]!, x[next + 1]!, y[next + 1]!) : [];
  const there = { x: x[next]!, y: y[next]! };
  return succeed(
    new Map<number, readonly PatchRow[]>([
      [row, [rowAt(program, row) as PatchRow, ...before, { command: 'trim' }]],
      [next, [{ command: 'jump', ...there }, rowAt(program, next) as PatchRow, ...after]],
    ]),
  );
}

/** Rows taken out: where the thread went in it is locked and cut, and begun anew where it came out; a short way is carried over. */
function takeOut(program: Program, rows: readonly number[]): Changes {
  const { x, y, command } = program;
  const changes: Changes = new Map();
  for (let k = 0; k < rows.length; k++) {
    const first = rows[k]!;
    let last = first;
    while (rows[k + 1] === last + 1) last = rows[++k]!;
    for (let row = first; row <= last; row++) changes.set(row, []);
    const [before, next] = [first - 1, last + 1];
    const [ends, begins] = [command[before] === STITCH, command[next] === STITCH];
    if (ends && begins && Math.hypot(x[next]! - x[before]!, y[next]! - y[before]!) <= CARRY) continue;
    const back = command[before - 1] === STITCH ? before - 1 : before;
    const on = command[next + 1] === STITCH ? next + 1 : next;
    const lock = ends ? lockAt(x[before]!, y[before]!, x[back]!, y[back]!) : [];
    if (!begins) {
      changes.set(last, lock);
      continue;
    }
    // A jump to where the thread went in is none any more.
    if (command[before] === JUMP) changes.set(before, []);
    const there = { x: x[next]!, y: y[next]! };
    changes.set(last, [...lock, ...(ends ? [{ command: 'trim' as const }] : []), { command: 'jump', ...there }]);
    changes.set(next, [rowAt(program, next) as PatchRow, ...lockAt(there.x, there.y, x[on]!, y[on]!)]);
  }
  return changes;
}

/** Objects of which no penetration would be left, apart from the changes of others. */
function withoutWholes(design: Design, all: Changes): { wholes: ObjectId[]; changes: RowChanges } {
  const { program, plan } = design;
  const isGone = (row: number): boolean => all.get(row)?.every(({ command }) => command !== 'stitch') === true;
  const wholes: ObjectId[] = [];
  const changes = new Map(all);
  for (const { id, first, end } of assemble(plan).places) {
    let [stitches, gone] = [0, 0];
    for (let row = first; row < end; row++) {
      if (program.command[row] !== STITCH) continue;
      stitches++;
      if (isGone(row)) gone++;
    }
    if (stitches === 0 || gone < stitches) continue;
    wholes.push(id);
    for (let row = first; row < end; row++) changes.delete(row);
  }
  return { wholes, changes };
}

/** Objects with holes where something was taken out of a design: what lay over them may have been what they were left open for. */
function holesThere({ plan, program }: Design, rows: readonly number[], gone: readonly ObjectId[]): string[] {
  return objectsOf(plan)
    .objects.filter(({ id, role, holes }) => role === 'cover' && holes.length > 0 && !gone.includes(id))
    .filter(({ holes }) => holes.some((hole) => rows.some((row) => containsPoint([hole], program.x[row]!, program.y[row]!))))
    .map(({ name }) => `${name} has a hole there, which can be filled under Shape`);
}

function outsideHoop({ program, target: { hoop } }: Design): number {
  let count = 0;
  for (let row = 0; row < program.rowCount; row++)
    if (program.command[row] === STITCH && (Math.abs(program.x[row]!) > hoop.width / 2 || Math.abs(program.y[row]!) > hoop.height / 2))
      count++;
  return count;
}
