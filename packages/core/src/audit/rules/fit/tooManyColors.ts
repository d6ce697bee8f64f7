import { colorDifference } from '../../../measure/colorDifference.ts';
import { colorRowsOf, type ProgramThread } from '../../../model/program.ts';
import { nameThread } from '../../AuditContext.ts';
import type { Fault } from '../../fault.ts';
import type { Rule } from '../../rule.ts';

export const tooManyColors: Rule = {
  id: 'too-many-colors',
  group: 'fit',
  scope: 'design',
  title: 'More colors than needles',
  measures: 'different threads against the needles of the machine',
  unit: 'threads',
  why: 'Each thread beyond the needles has to be put on by hand while the machine waits.',
  source: 'common practice',
  follows: 'machine',
  limit: (target) => target.machine.needles,
  list(context) {
    const { program, target } = context;
    const seen = new Set<string>();
    return [...colorRowsOf(program)].flatMap((row, k): Fault[] => {
      const { color, name } = program.threads[k]!;
      const key = `${color} ${name}`;
      const isOver = !seen.has(key) && seen.size >= target.machine.needles;
      seen.add(key);
      return isOver ? [context.place(row)] : [];
    });
  },
  say({ program, target }) {
    const threads = [...new Map(program.threads.map((thread) => [`${thread.color} ${thread.name}`, thread])).values()];
    const { needles } = target.machine;
    const over = threads.length - needles;
    return {
      severity: 'fix',
      measured: threads.length,
      limit: needles,
      message: `${threads.length} threads for ${needles} needles`,
      reason: `${over} of them ${over === 1 ? 'has' : 'have'} to be threaded by hand during each run.`,
      cost: { seconds: over * target.machine.stop, stitches: 0 },
      advice: `${sayNearest(threads)} Merge near colors, or take a machine with more needles.`,
    };
  },
};

/** The two threads that look most alike. O(threads²), so only the first hundred are compared. */
function sayNearest(threads: readonly ProgramThread[]): string {
  const some = threads.slice(0, 100);
  let nearest = { difference: Infinity, text: '' };
  some.forEach((a, k) => {
    for (const b of some.slice(k + 1)) {
      const difference = colorDifference(a.color, b.color);
      if (difference < nearest.difference)
        nearest = { difference, text: `${nameThread(a)} and ${nameThread(b)} look most alike (CIEDE2000 ${difference.toFixed(1)}).` };
    }
  });
  return nearest.text;
}
