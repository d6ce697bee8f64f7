import { priceOfPatches } from '../../priceOfPatches.ts';
import { countOf, findWorst } from '../../findFaults.ts';
import type { Rule } from '../../rule.ts';
import { LONGEST_LYING_STITCH, listStitchesBetween } from './longStitch.ts';
import { splitStitches } from './splitStitches.ts';

export const machineStep: Rule = {
  id: 'machine-step',
  group: 'holding',
  scope: 'object',
  title: 'Longer than the machine can stitch',
  measures: 'length of a stitch against the longest that this machine makes',
  unit: 'mm',
  why: 'The machine cannot make it: it turns the stitch into a jump with ties, which stops the run and leaves a loose thread across the work.',
  source: 'common practice',
  follows: 'machine',
  limit: (target) => target.machine.maxStitch,
  list: (context) => listStitchesBetween(context, context.target.machine.maxStitch, Infinity),
  say(context, faults) {
    const max = context.target.machine.maxStitch;
    const worst = findWorst(faults, ({ row }) => context.lengths[row]!);
    return {
      worst,
      severity: 'stop',
      measured: context.lengths[worst.row]!,
      limit: max,
      message: `${countOf(faults.length, 'stitch', 'stitches')} longer than the machine makes, up to ${context.lengths[worst.row]!.toFixed(1)} mm`,
      reason: `Over ${max} mm the machine jumps and ties instead: a loose thread across the work. Split it.`,
      cost: priceOfPatches(context, splitStitches(context, faults, LONGEST_LYING_STITCH)),
      fix: `Split ${faults.length === 1 ? 'it' : `all ${faults.length}`}`,
    };
  },
  repair: { name: 'split', patches: (context, faults) => splitStitches(context, faults, LONGEST_LYING_STITCH) },
};
