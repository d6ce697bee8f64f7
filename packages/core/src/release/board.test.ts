import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { defaultTarget } from '../materials/shop.ts';
import { inspectProgram } from '../measure/inspect.ts';
import { runClock } from '../measure/runClock.ts';
import { ProgramBuilder } from '../model/program.ts';
import { type BoardJob, LIST_RULES, planByRule, planLanes, runLanes } from './board.ts';
import { minutesOn, secondsOn } from './minutesOn.ts';
import { runs } from '../testing/runs.ts';

const alike = (minutes: readonly number[], due: readonly number[], machines = 1): BoardJob[] =>
  minutes.map((p, k) => ({ id: `j${k + 1}`, due: due[k]!, minutes: Array.from({ length: machines }, () => p) }));
const lateBy = (jobs: readonly BoardJob[], machines: number): number => runLanes(jobs, planLanes(jobs, machines)).late;
const bestRule = (jobs: readonly BoardJob[], machines: number): number =>
  Math.min(...Object.values(LIST_RULES).map((rule) => runLanes(jobs, planByRule(jobs, machines, rule)).late));

describe('a plan of the week', () => {
  test('is the best one of Pinedo, Scheduling: Theory, Algorithms, and Systems, 3.4: five jobs, 370 late in all (from memory, tried out)', () => {
    const jobs = alike([121, 79, 147, 83, 130], [260, 266, 266, 336, 337]);
    expect(lateBy(jobs, 1)).toBe(370);
    expect(planLanes(jobs, 1)).toEqual([['j1', 'j2', 'j4', 'j5', 'j3']]);
  });

  test('fits where longest-first does not: Graham’s worst case of 1969, for two to six machines (from memory)', () => {
    for (let m = 2; m <= 6; m++) {
      const minutes = [...Array.from({ length: m - 1 }, (_, k) => [2 * m - 1 - k, 2 * m - 1 - k]).flat(), m, m, m];
      const jobs = alike(
        minutes,
        minutes.map(() => 3 * m),
        m,
      );
      const longest = runLanes(jobs, planByRule(jobs, m, LIST_RULES['longest first']!));
      expect(longest.ends).toBe(4 * m - 1);
      expect(lateBy(jobs, m)).toBe(0);
    }
  });

  test('is never later than the best list rule, on jobs drawn as Potts and Van Wassenhove drew theirs in 1982 (from memory)', () => {
    let seed = 7;
    const random = (): number => (seed = (Math.imul(seed, 48271) >>> 0) % 2147483647) / 2147483647;
    let [ours, rules] = [0, 0];
    for (const tardiness of [0.2, 0.4, 0.6, 0.8])
      for (const range of [0.2, 0.6, 1]) {
        const minutes = Array.from({ length: 40 }, () => 1 + Math.floor(100 * random()));
        const whole = minutes.reduce((sum, p) => sum + p, 0) / 3;
        const due = minutes.map(() => Math.max(0, whole * (1 - tardiness + range * (random() - 0.5))));
        const jobs = alike(minutes, due, 3);
        const [mine, best] = [lateBy(jobs, 3), bestRule(jobs, 3)];
        expect(mine).toBeLessThanOrEqual(best + 1e-9);
        ours += mine;
        rules += best;
      }
    expect(ours).toBeLessThan(0.98 * rules);
  });

  test('is the best there is of few jobs, on machines of their own speeds, each job on a machine that can sew it (property)', () => {
    const job = fc.record({
      minutes: fc.array(fc.option(fc.integer({ min: 1, max: 90 }), { nil: Infinity, freq: 5 }), { minLength: 2, maxLength: 2 }),
      due: fc.integer({ min: 0, max: 150 }),
    });
    fc.assert(
      fc.property(fc.array(job, { minLength: 1, maxLength: 5 }), (list) => {
        const jobs = list.map((one, k): BoardJob => ({ id: `j${k}`, ...one }));
        const able = jobs.filter(({ minutes }) => minutes.some(Number.isFinite));
        const lanes = planLanes(jobs, 2);
        expect([...lanes.flat()].sort()).toEqual(able.map(({ id }) => id).sort());
        const planned = runLanes(jobs, lanes);
        expect(Number.isFinite(planned.ends)).toBe(true);
        expect(planned.late).toBeCloseTo(leastLate(able), 6);
        expect(planLanes(jobs, 2)).toEqual(lanes);
      }),
      runs(150, 41),
    );
  });

  test('says when each job begins and ends, and how late it is; what nobody waits for is never late', () => {
    const jobs: BoardJob[] = [
      { id: 'a', due: 50, minutes: [60, 30] },
      { id: 'b', due: Infinity, minutes: [20, 500] },
    ];
    const { times, late, lateJobs, ends } = runLanes(jobs, [['a', 'gone', 'b'], []]);
    expect([times.get('a'), times.get('b')]).toEqual([
      { machine: 0, begins: 0, ends: 60, late: 10 },
      { machine: 0, begins: 60, ends: 80, late: 0 },
    ]);
    expect([late, lateJobs, ends]).toEqual([10, 1, 80]);
    expect(planLanes(jobs, 2)).toEqual([['b'], ['a']]);
    expect(planLanes(jobs, 0)).toEqual([]);
  });
});

/** By trying all orders on all machines. */
function leastLate(jobs: readonly BoardJob[]): number {
  let least = Infinity;
  const try_ = (left: readonly BoardJob[], at: readonly [number, number], late: number): void => {
    if (late >= least) return;
    if (left.length === 0) return void (least = late);
    for (const job of left)
      for (const m of [0, 1] as const) {
        const ends = at[m] + job.minutes[m]!;
        if (!Number.isFinite(ends)) continue;
        try_(
          left.filter((one) => one !== job),
          m === 0 ? [ends, at[1]] : [at[0], ends],
          late + Math.max(0, ends - job.due),
        );
      }
  };
  try_(jobs, [0, 0], 0);
  return least;
}

describe('minutes of an order', () => {
  const { machine } = defaultTarget();
  const out = new ProgramBuilder().color('#1f4e79', 'Deep water');
  for (let part = 0; part < 6; part++) {
    out.jump(part * 20, 0);
    for (let k = 0; k < 400; k++) out.stitch(part * 20 + (k % 2) * 3, k * 0.1);
    out.trim();
  }
  const figures = inspectProgram(
    out.stop('lay the cloth').color('#b8722c', 'Amber').stitch(0, 0).stitch(2, 0).end().build(),
    defaultTarget(),
  );

  test('on the machine that it was timed on are those of its figures, on another one those of that one’s clock', () => {
    expect(secondsOn(figures, machine, machine)).toBe(figures.run.seconds);
    // The same machine under another name.
    expect(secondsOn(figures, machine, { ...machine })).toBeCloseTo(figures.run.seconds, 1);
    const slower = { ...machine, topSpeed: machine.topSpeed / 2, startSpeed: machine.startSpeed / 2 };
    const timed = runClock(out.build(), slower).totals.seconds;
    expect(Math.abs(secondsOn(figures, machine, slower) - timed) / timed).toBeLessThan(0.02);
  });

  test('fall with heads and grow with threads that no needle is left for', () => {
    const habits = { hooping: 1, isHoopedAhead: true, aHoop: 1 };
    const minutes = (more: object): number => minutesOn(figures, machine, { ...machine, ...more }, 120, habits);
    expect(minutes({ heads: 6 })).toBeLessThan(minutes({}) / 2);
    expect(minutes({ needles: 1 })).toBeGreaterThan(minutes({}));
  });
});
