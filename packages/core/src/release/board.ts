/** A job as it is planned: when it is due (working minutes from now; Infinity: whenever) and how long each machine takes for it (Infinity: it cannot). */
export interface BoardJob {
  readonly id: string;
  readonly due: number;
  readonly minutes: readonly number[];
}

/** For each machine the jobs that it sews, by their ids, in their order. */
export type Lanes = readonly (readonly string[])[];

/** What becomes of a plan. Working minutes. */
export interface BoardOutcome {
  /** When each job begins and is over. */
  readonly times: ReadonlyMap<string, { readonly machine: number; readonly begins: number; readonly ends: number; readonly late: number }>;
  /** Summed over all jobs that are late. */
  readonly late: number;
  readonly lateJobs: number;
  /** When the last machine is done. */
  readonly ends: number;
}

/** Works out when each job of a plan is done, one after another on its machine; ids that no job has are passed over. */
export function runLanes(jobs: readonly BoardJob[], lanes: Lanes): BoardOutcome {
  const known = new Map(jobs.map((job) => [job.id, job]));
  const times = new Map<string, { machine: number; begins: number; ends: number; late: number }>();
  let [late, lateJobs, ends] = [0, 0, 0];
  lanes.forEach((lane, machine) => {
    let at = 0;
    for (const id of lane) {
      const job = known.get(id);
      if (job === undefined) continue;
      const begins = at;
      at += job.minutes[machine]!;
      const own = Math.max(0, at - job.due);
      times.set(id, { machine, begins, ends: at, late: own });
      late += own;
      if (own > 0) lateJobs++;
    }
    ends = Math.max(ends, at);
  });
  return { times, late, lateJobs, ends };
}

/** A rule by which the next job is picked for the machine that is free first: the one of the least value. `mean`: minutes of a job on average. */
type ListRule = (job: { readonly due: number; readonly minutes: number }, at: number, mean: number) => number;

/** Rules of list scheduling as textbooks have them. */
export const LIST_RULES: Readonly<Record<string, ListRule>> = {
  'earliest due date': ({ due }) => due,
  'shortest first': ({ minutes }) => minutes,
  'longest first': ({ minutes }) => -minutes,
  'least slack': ({ due, minutes }, at) => due - at - minutes,
  'modified due date': ({ due, minutes }, at) => Math.max(due, at + minutes),
  'apparent lateness cost': ({ due, minutes }, at, mean) =>
    -Math.exp(-Math.max(0, due - minutes - at) / (LOOK_AHEAD * mean)) / Math.max(minutes, 1e-9),
};
/** Of the last one: so many mean jobs ahead urgency begins. */
const LOOK_AHEAD = 2;

/** Plans jobs by one rule: whichever machine would be done first gets the next one. O(jobs² × machines). */
export function planByRule(jobs: readonly BoardJob[], machines: number, rule: ListRule): string[][] {
  const lanes = Array.from({ length: machines }, (): string[] => []);
  const free = new Float64Array(machines);
  const best = (job: BoardJob): number => Math.min(...job.minutes.filter(Number.isFinite), Infinity);
  const left = jobs.filter((job) => Number.isFinite(best(job)));
  const mean = left.reduce((sum, job) => sum + best(job), 0) / Math.max(1, left.length);
  while (left.length > 0) {
    const at = Math.min(...free);
    let chosen = 0;
    let least = Infinity;
    left.forEach((job, k) => {
      const value = rule({ due: Math.min(job.due, FAR), minutes: best(job) }, at, mean);
      if (value < least) [least, chosen] = [value, k];
    });
    const [job] = left.splice(chosen, 1);
    let machine = -1;
    for (let m = 0; m < machines; m++)
      if (Number.isFinite(job!.minutes[m]!) && (machine < 0 || free[m]! + job!.minutes[m]! < free[machine]! + job!.minutes[machine]!))
        machine = m;
    lanes[machine]!.push(job!.id);
    free[machine]! += job!.minutes[machine]!;
  }
  return lanes;
}

/** What is due whenever comes after all that has a day. */
const FAR = 1e9;

/** So many changes of a plan are weighed at most: what a plan of 60 jobs on 4 machines takes is then some tens of milliseconds. */
const MOST_WEIGHED = 120_000;
/** Changes of its own plan that the search makes to get out of a plan that no single move betters. */
const SHAKES = 40;

/**
 * Plans which machine sews which job and in which order, so that the sum of lateness is least, then so that all is over soonest: the best plan of the list rules,
 * bettered by moving single jobs and by changing two for each other. Never later than the best of the rules; not proven to be the best there is. The same jobs give the same plan.
 */
export function planLanes(jobs: readonly BoardJob[], machines: number): string[][] {
  if (machines === 0) return [];
  const search = new LaneSearch(jobs, machines);
  let best: readonly number[][] | undefined;
  for (const rule of Object.values(LIST_RULES)) {
    const lanes = search.fromIds(planByRule(jobs, machines, rule));
    search.better(lanes);
    if (best === undefined || search.isLess(search.cost(lanes), search.cost(best))) best = lanes;
  }
  for (let k = 0; k < SHAKES && search.weighed < MOST_WEIGHED; k++) {
    const lanes = best!.map((lane) => [...lane]);
    search.shake(lanes);
    search.better(lanes);
    if (search.isLess(search.cost(lanes), search.cost(best!))) best = lanes;
  }
  return search.toIds(best!);
}

interface Cost {
  readonly late: number;
  readonly ends: number;
}

/** Lanes of jobs by their indices, with what a change of them costs. */
class LaneSearch {
  weighed = 0;
  private readonly jobs: readonly BoardJob[];
  private readonly machines: number;
  private seed = 1;

  constructor(jobs: readonly BoardJob[], machines: number) {
    this.jobs = jobs;
    this.machines = machines;
  }

  fromIds(lanes: Lanes): number[][] {
    const index = new Map(this.jobs.map(({ id }, k) => [id, k]));
    return lanes.map((lane) => lane.map((id) => index.get(id)!));
  }

  toIds(lanes: readonly (readonly number[])[]): string[][] {
    return lanes.map((lane) => lane.map((k) => this.jobs[k]!.id));
  }

  cost(lanes: readonly (readonly number[])[]): Cost {
    return total(lanes.map((lane, machine) => this.laneCost(lane, machine)));
  }

  isLess(a: Cost, b: Cost): boolean {
    return a.late < b.late - EPSILON || (a.late < b.late + EPSILON && a.ends < b.ends - EPSILON);
  }

  /** Makes the move or exchange that betters lanes most, until none does. */
  better(lanes: number[][]): void {
    for (;;) {
      const ends = lanes.map((lane, machine) => this.laneCost(lane, machine));
      let least = total(ends);
      let best: (() => void) | undefined;
      const weigh = (m: number, one: Cost, n: number, other: Cost | undefined, act: () => void): void => {
        this.weighed++;
        const cost = total(ends, m, one, n, other);
        if (this.isLess(cost, least)) [least, best] = [cost, act];
      };
      for (let m = 0; m < this.machines && this.weighed < MOST_WEIGHED; m++)
        for (let k = 0; k < lanes[m]!.length; k++)
          for (let n = 0; n < this.machines; n++) {
            this.weighMoves(lanes, m, k, n, weigh);
            if (n >= m) this.weighExchanges(lanes, m, k, n, weigh);
          }
      if (best === undefined) return;
      best();
      if (this.weighed >= MOST_WEIGHED) return;
    }
  }

  private weighMoves(lanes: readonly number[][], m: number, k: number, n: number, weigh: Weigh): void {
    const job = lanes[m]![k]!;
    const move = (at: number) => (): void => {
      lanes[m]!.splice(k, 1);
      lanes[n]!.splice(at, 0, job);
    };
    if (m === n) {
      for (let at = 0; at < lanes[m]!.length; at++) if (at !== k) weigh(m, this.laneCost(lanes[m]!, m, k, at, job), m, undefined, move(at));
      return;
    }
    if (!Number.isFinite(this.jobs[job]!.minutes[n]!)) return;
    const without = this.laneCost(lanes[m]!, m, k);
    for (let at = 0; at <= lanes[n]!.length; at++) weigh(m, without, n, this.laneCost(lanes[n]!, n, -1, at, job), move(at));
  }

  private weighExchanges(lanes: readonly number[][], m: number, k: number, n: number, weigh: Weigh): void {
    const [one, other] = [lanes[m]!, lanes[n]!];
    for (let at = m === n ? k + 1 : 0; at < other.length; at++) {
      const [first, second] = [one[k]!, other[at]!];
      const exchange = (): void => void ([one[k], other[at]] = [second, first]);
      if (m === n) {
        exchange();
        const cost = this.laneCost(one, m);
        [one[k], other[at]] = [first, second];
        weigh(m, cost, m, undefined, exchange);
      } else weigh(m, this.laneCost(one, m, k, k, second), n, this.laneCost(other, n, at, at, first), exchange);
    }
  }

  /** Moves a few jobs to where chance has it. */
  shake(lanes: number[][]): void {
    for (let times = 0; times < 3; times++) {
      const from = this.random(this.machines);
      const [job] = lanes[from]!.splice(this.random(Math.max(1, lanes[from]!.length)), 1);
      if (job === undefined) continue;
      const able = lanes.map((_, m) => m).filter((m) => Number.isFinite(this.jobs[job]!.minutes[m]!));
      const to = able[this.random(able.length)]!;
      lanes[to]!.splice(this.random(lanes[to]!.length + 1), 0, job);
    }
  }

  /** What a lane comes to; without the job at `without`, and with `added` at place `at` of what is left. */
  private laneCost(lane: readonly number[], machine: number, without = -1, at = -1, added = -1): Cost {
    let [time, late, place] = [0, 0, 0];
    for (let k = 0; k <= lane.length; k++) {
      // Twice at most: what is put in before a job, and the job itself.
      for (let turn = 0; turn < 2; turn++) {
        const isAdded = turn === 0;
        if (isAdded ? place !== at || added < 0 : k === lane.length || k === without) continue;
        const job = this.jobs[isAdded ? added : lane[k]!]!;
        time += job.minutes[machine]!;
        if (time > job.due) late += time - job.due;
        if (isAdded) at = -1;
        else place++;
      }
    }
    return { late, ends: time };
  }

  /** A whole number under `below`, the same ones in each search. */
  private random(below: number): number {
    this.seed = (Math.imul(this.seed, 1664525) + 1013904223) >>> 0;
    return Math.floor((this.seed / 2 ** 32) * below);
  }
}

type Weigh = (m: number, one: Cost, n: number, other: Cost | undefined, act: () => void) => void;

/** What all lanes come to; lane `m` as `one`, lane `n` as `other` where that is another. */
function total(costs: readonly Cost[], m = -1, one?: Cost, n = -1, other?: Cost): Cost {
  let [late, ends] = [0, 0];
  for (let k = 0; k < costs.length; k++) {
    const cost = k === m ? one! : k === n && other !== undefined ? other : costs[k]!;
    late += cost.late;
    if (cost.ends > ends) ends = cost.ends;
  }
  return { late, ends };
}

/** Of minutes: what differs by less is the same. */
const EPSILON = 1e-6;
