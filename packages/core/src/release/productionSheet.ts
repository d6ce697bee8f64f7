import { sayClock } from '../materials/sayLearned.ts';
import { inspectProgram } from '../measure/inspect.ts';
import { extentsInHoop } from '../measure/inHoop.ts';
import { runClock } from '../measure/runClock.ts';
import type { Design } from '../model/design.ts';
import { AS_FILED } from '../model/place.ts';
import { COLOR, type Program, STITCH, STOP, UNNAMED_THREAD } from '../model/program.ts';
import { CAUTIONS } from '../words/cautions.ts';
import { sayCount } from '../words/sayCount.ts';

/** A thread as it is put on: in the order of the run, each time anew. */
export interface ThreadTurn {
  /** Counts from 1. */
  readonly turn: number;
  /** The needle that it is on, from 1: one for each thread, in the order in which they first sew. */
  readonly needle: number;
  readonly color: string;
  readonly name: string;
  readonly stitches: number;
}

/** A thread that is needed, with its length for one piece and for the order (estimates), and cones. */
export interface ThreadNeed {
  readonly needle: number;
  readonly color: string;
  readonly name: string;
  readonly onePiece: number;
  readonly order: number;
  readonly cones: number;
}

export interface OperatorStop {
  /** Counts from 1. */
  readonly number: number;
  /** Seconds from the start of a piece. */
  readonly at: number;
  /** The turn of thread before it. */
  readonly after: number;
  readonly note: string;
}

/** What the operator is given with a file, without its picture. Lengths in mm and m, times in s; times and thread lengths are estimates. */
export interface ProductionSheet {
  readonly facts: readonly (readonly [name: string, value: string])[];
  readonly turns: readonly ThreadTurn[];
  readonly threads: readonly ThreadNeed[];
  /** More threads than needles: some have to be put on by hand. */
  readonly missingNeedles: number;
  readonly stops: readonly OperatorStop[];
  readonly onePiece: number;
  /** Of all pieces on all heads. */
  readonly order: number;
  readonly runs: number;
  readonly kept: readonly { readonly title: string; readonly reason: string; readonly count: number }[];
  readonly cautions: readonly string[];
}

/** So many pieces a machine sews at once. */
export const headsOf = ({ heads = 1 }: { readonly heads?: number | undefined }): number => heads;

/** Puts together what an operator has to know to sew a design. O(rows). */
export function productionSheet({ program, target, kept }: Pick<Design, 'program' | 'target' | 'kept'>): ProductionSheet {
  const { fabric, garment, hoop, thread, machine, quantity, place = AS_FILED } = target;
  const figures = inspectProgram(program, target);
  const { width, height } = figures.extents;
  const at = extentsInHoop(program, figures.extents, place);
  const middle = `${((at.minX + at.maxX) / 2).toFixed(1)}, ${((at.minY + at.maxY) / 2).toFixed(1)}`;
  const { turns, threads, stops } = readTurns(program, target);
  const heads = headsOf(machine);
  const runs = Math.ceil(quantity / heads);
  const topping = fabric.topping === '' ? 'none' : fabric.topping;
  return {
    facts: [
      ['Size', `${width.toFixed(1)} × ${height.toFixed(1)} mm, ${sayCount(figures.stitches)} stitches, ${sayCount(figures.trims)} trims`],
      ['Cloth', fabric.name],
      ['Place', garment === null ? 'not chosen' : `${garment.name}, zone ${garment.width} × ${garment.height} mm`],
      ['Hoop', `${hoop.name}, field ${hoop.width} × ${hoop.height} mm; middle of the design at ${middle} mm from the hoop’s`],
      ...(place.turn === 0 ? [] : [['Turned', `${place.turn}° to the left in the file`] as const]),
      ['Stabilizer', fabric.stabilizer],
      ['Topping', topping === 'none' ? topping : `${topping}: ${whenTopping(fabric.pile)}`],
      ['Thread', `${thread.name}; needle size ${thread.needle}`],
      ['Machine', `${machine.name}, ${sayCount(machine.topSpeed)} stitches a minute at most; ${sayClock(machine)}`],
    ],
    turns,
    threads: threads.map((need) => {
      const use = figures.colors.find(({ color, name }) => color === need.color && name === need.name);
      const onePiece = use?.threadM ?? 0;
      return { ...need, onePiece, order: onePiece * quantity, cones: use?.cones ?? 0 };
    }),
    missingNeedles: Math.max(0, threads.length - machine.needles),
    stops,
    onePiece: figures.run.seconds,
    order: figures.run.seconds * runs,
    runs,
    kept: gather(Object.values(kept)),
    cautions: CAUTIONS,
  };
}

/** Common practice: on loop pile a soluble topping goes on over the layer that holds the pile, where there is one. */
const LOOP_PILE = 1;
const whenTopping = (pile: number): string =>
  pile >= LOOP_PILE
    ? 'laid on after the layer that holds the pile, where there is one, else before the first stitch'
    : 'laid on before the first stitch';

function readTurns(program: Program, target: Design['target']) {
  const { done } = runClock(program, target.machine);
  const turns: { turn: number; needle: number; color: string; name: string; stitches: number }[] = [];
  const threads: { needle: number; color: string; name: string }[] = [];
  const stops: OperatorStop[] = [];
  const put = ({ color, name }: { color: string; name: string }): void => {
    let known = threads.find((one) => one.color === color && one.name === name);
    if (known === undefined) threads.push((known = { needle: threads.length + 1, color, name }));
    turns.push({ turn: turns.length + 1, ...known, stitches: 0 });
  };
  let color = 0;
  for (let row = 0; row < program.rowCount; row++) {
    const command = program.command[row]!;
    if (command === COLOR) put(program.threads[color++]!);
    else if (command === STOP)
      stops.push({ number: stops.length + 1, at: done[row]!, after: turns.length, note: program.notes.get(row) ?? '' });
    else if (command === STITCH) {
      if (turns.length === 0) put(UNNAMED_THREAD);
      turns.at(-1)!.stitches++;
    }
  }
  return { turns, threads, stops };
}

function gather(kept: readonly { readonly title: string; readonly reason: string }[]): ProductionSheet['kept'] {
  const found = new Map<string, { title: string; reason: string; count: number }>();
  for (const { title, reason } of kept) {
    const key = `${title}\n${reason}`;
    found.set(key, { title, reason, count: (found.get(key)?.count ?? 0) + 1 });
  }
  return [...found.values()];
}
