import type { Fabric, Machine } from '../model/target.ts';
import type { SewOut } from './sewOut.ts';

/** A value and how sure it is: mean and standard deviation of a normal distribution. */
export interface Normal {
  readonly mean: number;
  readonly spread: number;
}

/** How unsure a value is before any sample was sewn, as a share of it. */
const PRIOR_SPREAD = 0.3;
/** How far off a width or gap is that is read from cloth with a rule, mm. From memory. */
const READING_SPREAD = 0.2;
/** Runs of one file differ by so much (share), and their minutes are read so exactly (s). From memory. */
const RUN_SPREAD = 0.03;
const RUN_READING = 6;

/**
 * The mean of a normal distribution of which `prior` was believed, after `observations` of it, each with its own spread: means weighted by one over the
 * square of the spread. Order does not matter. A spread of 0 is not taken.
 */
export function updateNormal(prior: Normal, observations: readonly Normal[]): Normal {
  let weight = prior.spread ** -2;
  let sum = prior.mean * weight;
  for (const { mean, spread } of observations) {
    weight += spread ** -2;
    sum += mean * spread ** -2;
  }
  return { mean: sum / weight, spread: weight ** -0.5 };
}

/** A value that was seen, with its spread, as the sum of two unknowns times what each counted there. */
export interface SeenSum {
  readonly counted: readonly [number, number];
  readonly value: number;
  readonly spread: number;
}

/** Two unknowns, believed to be independent before, after sums of them were seen: linear regression with a normal prior, in closed form. */
export function updatePair(prior: readonly [Normal, Normal], seen: readonly SeenSum[]): readonly [Normal, Normal] {
  // Precision matrix [p q; q r] and what it times the means comes to.
  let [p, q, r] = [prior[0].spread ** -2, 0, prior[1].spread ** -2];
  let [u, v] = [prior[0].mean * p, prior[1].mean * r];
  for (const { counted, value, spread } of seen) {
    const weight = spread ** -2;
    const [a, b] = counted;
    [p, q, r] = [p + a * a * weight, q + a * b * weight, r + b * b * weight];
    [u, v] = [u + a * value * weight, v + b * value * weight];
  }
  const determinant = p * r - q * q;
  return [
    { mean: (r * u - q * v) / determinant, spread: Math.sqrt(r / determinant) },
    { mean: (p * v - q * u) / determinant, spread: Math.sqrt(p / determinant) },
  ];
}

/** What samples taught about a cloth: its pull as it would be now (mm a side). An estimate. */
export interface PullLesson extends Normal {
  /** The pull that the shop had before any sample. */
  readonly from: number;
  readonly samples: number;
  readonly readings: number;
}

/** The pull of a cloth after all samples that were sewn on it and count; those without a reading teach nothing. Nothing where there is none. */
export function learnPull(fabric: Fabric, sewOuts: readonly SewOut[]): PullLesson | undefined {
  const from = fabric.learned?.from ?? fabric.pull;
  const observations: Normal[] = [];
  let samples = 0;
  for (const sewOut of sewOuts) {
    if (!sewOut.counts || sewOut.fabric.id !== fabric.id) continue;
    const before = observations.length;
    for (const { designed, perPull, measured } of sewOut.places) {
      if (measured === null || Math.abs(perPull) < LEAST_PER_PULL) continue;
      observations.push({ mean: (measured - designed) / perPull, spread: READING_SPREAD / Math.abs(perPull) });
    }
    if (observations.length > before) samples++;
  }
  if (samples === 0) return undefined;
  const { mean, spread } = updateNormal({ mean: from, spread: PRIOR_SPREAD * Math.max(from, LEAST_PULL) }, observations);
  return { mean: Math.max(0, mean), spread, from, samples, readings: observations.length };
}

/** A place that hardly depends on the pull says nothing of it. */
const LEAST_PER_PULL = 0.1;
/** A cloth that the shop has down as giving nowhere may do so all the same, mm. */
const LEAST_PULL = 0.05;

/** What samples taught about a machine: speed as it would be now (stitches a minute, with the start as a share of it) and its trim cycle (s). Estimates. */
export interface ClockLesson {
  readonly topSpeed: Normal;
  readonly startSpeed: number;
  readonly trimCycle: Normal;
  readonly from: { readonly topSpeed: number; readonly startSpeed: number; readonly trimCycle: number };
  readonly samples: number;
}

/** The clock of a machine after all samples that were timed on it and count. Nothing where there is none. */
export function learnClock(machine: Machine, sewOuts: readonly SewOut[]): ClockLesson | undefined {
  const { topSpeed, startSpeed, trimCycle } = machine.learned?.from ?? machine;
  const seen = sewOuts
    .filter((s) => s.counts && s.machine.id === machine.id && s.minutes !== null)
    .map(({ machine: then, minutes, expected: { sewing, trims, rest } }): SeenSum => {
      const seconds = minutes! * 60;
      // Sewing took what it took by the speed that the machine was thought to have then.
      const counted = [(sewing * then.topSpeed) / topSpeed, trims] as const;
      return { counted, value: seconds - rest, spread: Math.hypot(RUN_READING, RUN_SPREAD * seconds) };
    });
  if (seen.length === 0) return undefined;
  const [slowness, trim] = updatePair(
    [
      { mean: 1, spread: PRIOR_SPREAD },
      { mean: trimCycle, spread: PRIOR_SPREAD * Math.max(1, trimCycle) },
    ],
    seen,
  );
  const slower = Math.max(1 / MOST_TIMES, Math.min(MOST_TIMES, slowness.mean));
  return {
    topSpeed: { mean: topSpeed / slower, spread: (topSpeed * slowness.spread) / slower ** 2 },
    startSpeed: startSpeed / slower,
    trimCycle: { mean: Math.max(0, trim.mean), spread: trim.spread },
    from: { topSpeed, startSpeed, trimCycle },
    samples: seen.length,
  };
}

/** No machine is so many times slower or faster than it was thought to be: minutes were written down wrong. */
const MOST_TIMES = 4;

/** A cloth with what samples taught taken up. */
export function withPull(fabric: Fabric, { mean, spread, from, samples, readings }: PullLesson): Fabric {
  return { ...fabric, pull: round(mean, 3), learned: { from, spread: round(spread, 4), samples, readings } };
}

/** A machine with what samples taught taken up. */
export function withClock(machine: Machine, { topSpeed, startSpeed, trimCycle, from, samples }: ClockLesson): Machine {
  return {
    ...machine,
    topSpeed: Math.round(topSpeed.mean),
    startSpeed: Math.round(startSpeed),
    trimCycle: round(trimCycle.mean, 2),
    learned: { from, speedSpread: round(topSpeed.spread, 1), trimSpread: round(trimCycle.spread, 2), samples },
  };
}

const round = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;
