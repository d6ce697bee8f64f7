import { colorDifference } from '../../../measure/colorDifference.ts';
import { COLOR, type ProgramThread } from '../../../model/program.ts';
import { nameThread } from '../../AuditContext.ts';
import { describeRows } from '../../describeRows.ts';
import type { Rule } from '../../rule.ts';

export const tooManyColors: Rule = {
  id: 'too-many-colors',
  group: 'fit',
  title: 'More colors than needles',
  measures: 'different threads against the needles of the machine',
  unit: 'threads',
  why: 'Each thread beyond the needles has to be put on by hand while the machine waits.',
  source: 'common practice',
  limit: (target) => target.machine.needles,
  find(context) {
    const { program, target } = context;
    const needles = target.machine.needles;
    const seen = new Map<string, ProgramThread>();
    const rows: number[] = [];
    let color = 0;
    for (let i = 0; i < program.rowCount; i++) {
      if (program.command[i] !== COLOR) continue;
      const thread = program.threads[color++]!;
      const key = `${thread.color} ${thread.name}`;
      if (!seen.has(key) && seen.size >= needles) rows.push(i);
      seen.set(key, thread);
    }
    if (rows.length === 0) return [];
    const over = seen.size - needles;
    return [
      {
        ...describeRows(context, tooManyColors.id, rows),
        key: tooManyColors.id,
        severity: 'fix',
        measured: seen.size,
        limit: needles,
        unit: 'threads',
        message: `${seen.size} threads for ${needles} needles`,
        reason: `${over} of them ${over === 1 ? 'has' : 'have'} to be threaded by hand during each run.`,
        cost: { seconds: over * target.machine.stop, stitches: 0 },
        advice: `${sayNearest([...seen.values()])} Merge near colors, or take a machine with more needles.`,
      },
    ];
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
