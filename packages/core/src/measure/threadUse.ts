import { COLOR, type Program, type ProgramThread, STITCH, TRIM, UNNAMED_THREAD } from '../model/program.ts';
import { layLengths } from '../model/stretches.ts';
import type { Target } from '../model/target.ts';
import { texFromMetricNumber } from '../model/thread.ts';

/** Bobbin thread for each metre of upper thread. A third to a half is common; from memory. */
const BOBBIN_SHARE = 0.4;
/** Thread that hangs out at each cut end, mm. From memory. */
const TAIL = 20;
/** Thickness of one sheet of stabilizer, mm, and mass of a millimetre of cloth, g/m². From memory. */
const STABILIZER_THICKNESS = 0.35;
const CLOTH_MASS_PER_MILLIMETRE = 420;

/** What one color of a program takes, for one piece. */
export interface ColorUse {
  readonly color: string;
  readonly name: string;
  /** How many times this thread is put on. */
  readonly blocks: number;
  readonly stitches: number;
  readonly threadM: number;
  readonly grams: number;
  /** Cones for the whole order, not rounded. */
  readonly cones: number;
}

export interface ThreadUse {
  readonly threadM: number;
  readonly bobbinM: number;
  /** By color and name, in the order they first sew. */
  readonly colors: readonly ColorUse[];
}

/**
 * Estimates the thread a program takes: lengths laid, take-up through the cloth and its backing at each penetration, tails at each cut.
 * About 5 m of upper thread for 1,000 stitches on mixed work (from memory). O(rows).
 */
export function measureThreadUse(
  program: Program,
  target: Pick<Target, 'fabric' | 'thread' | 'quantity'>,
  lengths: Float64Array = layLengths(program),
): ThreadUse {
  const perPenetration = 2 * (target.fabric.mass / CLOTH_MASS_PER_MILLIMETRE + target.fabric.pile * 0.5 + STABILIZER_THICKNESS);
  const byThread = new Map<string, { thread: ProgramThread; blocks: number; stitches: number; length: number }>();
  let current: { thread: ProgramThread; blocks: number; stitches: number; length: number } | undefined;
  let color = 0;
  let isCut = true;
  for (let i = 0; i < program.rowCount; i++) {
    const command = program.command[i]!;
    if (command === COLOR) {
      current = use(program.threads[color++]!);
      current.blocks++;
      isCut = true;
      continue;
    }
    if (command === STITCH) {
      if (current === undefined) {
        current = use(UNNAMED_THREAD);
        current.blocks++;
      }
      current.stitches++;
      current.length += perPenetration + (isCut ? 2 * TAIL : 0);
      isCut = false;
    } else if (command === TRIM) isCut = true;
    if (current !== undefined) current.length += lengths[i]!;
  }
  const grams = texFromMetricNumber(target.thread.weight) / 1000;
  const colors = [...byThread.values()].map((u) => {
    const threadM = u.length / 1000;
    return {
      color: u.thread.color,
      name: u.thread.name,
      blocks: u.blocks,
      stitches: u.stitches,
      threadM,
      grams: threadM * grams,
      cones: (threadM * target.quantity) / target.thread.coneMetres,
    };
  });
  const threadM = colors.reduce((sum, c) => sum + c.threadM, 0);
  return { threadM, bobbinM: threadM * BOBBIN_SHARE, colors };

  function use(thread: ProgramThread) {
    const key = `${thread.color} ${thread.name}`;
    let entry = byThread.get(key);
    if (entry === undefined) byThread.set(key, (entry = { thread, blocks: 0, stitches: 0, length: 0 }));
    return entry;
  }
}
