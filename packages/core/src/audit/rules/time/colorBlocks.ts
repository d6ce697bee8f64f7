import { colorDifference } from '../../../measure/colorDifference.ts';
import { colorRowsOf, type ProgramThread } from '../../../model/program.ts';
import { orderColors } from '../../../order/orderColors.ts';
import { findSeenLayers } from '../../../order/seenLayers.ts';
import { nameThread } from '../../AuditContext.ts';
import { countOf } from '../../findFaults.ts';
import type { Fault } from '../../fault.ts';
import type { Rule } from '../../rule.ts';

export const colorReturn: Rule = {
  id: 'color-return',
  group: 'time',
  scope: 'design',
  title: 'A thread comes back',
  measures: 'color changes against the fewest that keep what lies on what',
  unit: 'changes',
  why: 'Each change stops the machine. Where nothing lies between, all that one thread sews can be sewn at once.',
  source: 'common practice',
  follows: 'itself',
  limit: () => 0,
  list(context, limit) {
    const { plan, program } = context;
    const names = program.threads.map(keyOf);
    if (plan === undefined || plan.blocks.length < 3 || new Set(names).size === names.length) return [];
    const { blocks } = orderColors(plan, findSeenLayers(plan), { isHeld: (id) => plan.objects[id]!.isLocked === true });
    const spare = plan.blocks.length - blocks.length;
    if (spare <= limit) return [];
    // The blocks whose thread was on before are those that come back.
    const seen = new Set<string>();
    const returns = [...colorRowsOf(program)].filter((_, k) => {
      const key = keyOf(program.threads[k]!);
      const isBack = seen.has(key);
      seen.add(key);
      return isBack;
    });
    return returns.slice(-spare).map((row) => context.place(row));
  },
  say({ target, program }, faults) {
    const changes = program.threads.length - 1;
    return {
      severity: 'fix',
      ...{ measured: changes, limit: changes - faults.length },
      message: `${countOf(faults.length, 'color change')} more than what lies on what asks for`,
      reason: `A change takes about ${Math.round(target.machine.colorChange)} s. Nothing comes out on top that belonged beneath.`,
      cost: { seconds: faults.length * target.machine.colorChange, stitches: 0 },
      fix: 'Gather each thread',
    };
  },
  mend: 'each thread gathered',
};

/** Threads nearer to each other than this (CIEDE2000) look like one beside each other. From memory: 2 to 3 is just told. */
const LOOKS_ALIKE = 2.5;

/** Two threads that look alike: the later of them, and the earlier. */
interface Alike extends Fault {
  readonly thread: ProgramThread;
  readonly like: ProgramThread;
  readonly difference: number;
}

export const mergeableColor: Rule<Alike> = {
  id: 'mergeable-color',
  group: 'time',
  scope: 'block',
  title: 'Two threads that look like one',
  measures: 'difference of two threads (CIEDE2000)',
  unit: 'ΔE',
  why: 'Automatic conversions and pasted parts bring the same color under two names. Nobody sees the difference; the machine stops for it, and it takes a needle.',
  source: 'standard',
  limit: () => LOOKS_ALIKE,
  list(context, limit) {
    const { program } = context;
    const known = new Map<string, ProgramThread>();
    return [...colorRowsOf(program)].flatMap((row, k): Alike[] => {
      const thread = program.threads[k]!;
      if (known.has(keyOf(thread))) return [];
      const like = [...known.values()].slice(0, MOST_THREADS).find((other) => colorDifference(other.color, thread.color) < limit);
      known.set(keyOf(thread), thread);
      return like === undefined ? [] : [{ ...context.place(row), thread, like, difference: colorDifference(like.color, thread.color) }];
    });
  },
  say({ target }, faults, limit) {
    const worst = faults.reduce((a, b) => (b.difference < a.difference ? b : a));
    return {
      worst,
      severity: 'note',
      ...{ measured: worst.difference, limit },
      message: `${nameThread(worst.thread)} and ${nameThread(worst.like)} look alike, ${worst.difference.toFixed(1)} apart (CIEDE2000)`,
      reason: `${countOf(faults.length, 'thread')} that nobody tells from another one. Each takes a needle and a change.`,
      cost: { seconds: faults.length * target.machine.colorChange, stitches: 0 },
      fix: 'Sew them with one',
    };
  },
  mend: 'sewn with one thread',
};

/** Colors are compared with the first so many threads. */
const MOST_THREADS = 60;

function keyOf({ color, name }: ProgramThread): string {
  return `${color} ${name}`;
}
