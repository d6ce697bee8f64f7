import { countOf, describeRows, findWorst, groupByThread, nameThreads } from '../../describeRows.ts';
import type { Finding } from '../../finding.ts';
import { priceOfPatches } from '../../priceOfPatches.ts';
import type { Rule } from '../../rule.ts';
import { LONGEST_LYING_STITCH, listStitchesBetween } from './longStitch.ts';
import { splitStitches } from './splitStitches.ts';

export const machineStep: Rule = {
  id: 'machine-step',
  group: 'holding',
  title: 'Longer than the machine can stitch',
  measures: 'length of a stitch against the longest that this machine makes',
  unit: 'mm',
  why: 'The machine cannot make it: it turns the stitch into a jump with ties, which stops the run and leaves a loose thread across the work.',
  source: 'common practice',
  limit: (target) => target.machine.maxStitch,
  find(context) {
    const max = context.target.machine.maxStitch;
    return groupByThread(context, listStitchesBetween(context, max, Infinity)).map((rows): Finding => {
      const worst = findWorst(rows, (row) => context.lengths[row]!);
      return {
        ...describeRows(context, machineStep.id, rows, worst),
        severity: 'stop',
        measured: context.lengths[worst]!,
        limit: max,
        unit: 'mm',
        message: `${countOf(rows.length, 'stitch', 'stitches')} of ${nameThreads(context, rows)} longer than the machine makes, up to ${context.lengths[worst]!.toFixed(1)} mm`,
        reason: `Over ${max} mm the machine jumps and ties instead: a loose thread across the work. Split it.`,
        cost: priceOfPatches(context, splitStitches(context, rows, LONGEST_LYING_STITCH)),
        fix: `Split ${rows.length === 1 ? 'it' : `all ${rows.length}`}`,
      };
    });
  },
  repair: { name: 'split', patches: (context, finding) => splitStitches(context, finding.rows, LONGEST_LYING_STITCH) },
};
