import type { Board, JobSummary } from '@isola/contract';
import { type BoardJob, type BoardOutcome, type BoardPlan, type Lanes, minutesOn, runLanes } from '@isola/core';
import { wrap } from 'comlink';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { api, ApiError } from '../api/client.ts';
import type { PlanWorkerApi } from '../workers/plan.worker.ts';
import { afterWorking, endOfDay, workingMinutes } from './workingTime.ts';
import { useShop } from './shop.ts';

/** Where a job is put: on a machine, before the job at this place of its lane; no machine: off the plan. */
export interface BoardPlace {
  readonly machine: string | undefined;
  readonly at: number;
}

/** The week's board: which machine sews which order when, and what would be late. */
export const useBoard = defineStore('board', () => {
  const jobs = shallowRef<readonly JobSummary[]>([]);
  const shop = useShop();
  const board = shallowRef<Board>();
  /** The plan before the last change of this page. */
  const before = shallowRef<BoardPlan>();
  /** A plan that is proposed and not taken up. */
  const proposed = shallowRef<BoardPlan>();
  const isPlanning = ref(false);
  /** From when on it is planned: set when the board is looked at. */
  const now = shallowRef(new Date());

  const plan = computed(() => proposed.value ?? board.value?.plan);
  const machines = computed(() => shop.shop?.machines ?? []);
  /** Orders that are not sewn yet. */
  const open = computed(() => jobs.value.filter(({ id, practice }) => practice === null && board.value?.plan.sewn.includes(id) !== true));
  const planned = computed(() => new Map(open.value.map((job) => [job.id, boardJob(job)])));

  function boardJob(job: JobSummary): BoardJob {
    const { hours, hooping, isHoopedAhead } = board.value!.plan;
    const aHoop = job.target.layout?.copies ?? 1;
    // Copies in a hoop are in the figures of its piece already.
    const quantity = Math.ceil(job.target.quantity / aHoop);
    const due = job.due === null ? Infinity : workingMinutes(now.value, endOfDay(job.due, hours), hours);
    const minutes = machines.value.map((machine) =>
      minutesOn(job.now, job.target.machine, machine, quantity, { hooping: hooping * aHoop, isHoopedAhead, aHoop: 1 }),
    );
    return { id: job.id, due, minutes };
  }

  const lanesOf = ({ lanes }: BoardPlan): Lanes =>
    machines.value.map(({ id }) => (lanes[id] ?? []).filter((job) => planned.value.has(job)));
  const outcomeOf = (of: BoardPlan): BoardOutcome => runLanes([...planned.value.values()], lanesOf(of));
  const outcome = computed(() => (plan.value === undefined ? undefined : outcomeOf(plan.value)));
  const standing = computed(() => (board.value === undefined ? undefined : outcomeOf(board.value.plan)));
  const unplanned = computed(() => {
    const on = new Set(plan.value === undefined ? [] : lanesOf(plan.value).flat());
    return open.value.filter(({ id }) => !on.has(id));
  });
  /** When so many working minutes from now are over. */
  const momentOf = (minutes: number): Date => afterWorking(now.value, minutes, board.value!.plan.hours);

  async function load(): Promise<void> {
    now.value = new Date();
    const [read, found] = await Promise.all([api.board(), api.jobs({ of: 'board' }), shop.shop === undefined ? shop.load() : undefined]);
    jobs.value = found.jobs;
    board.value = read;
  }

  async function write(next: BoardPlan): Promise<void> {
    const old = board.value!;
    try {
      // Shown at once; what the server has then is shown.
      board.value = { ...old, plan: next };
      board.value = await api.writeBoard(old.version, next);
      before.value = old.plan;
    } catch (error) {
      board.value = error instanceof ApiError && error.status === 409 ? await api.board() : old;
      throw error;
    } finally {
      proposed.value = undefined;
    }
  }

  /** The plan with a job put elsewhere. */
  function moved(id: string, { machine, at }: BoardPlace): BoardPlan {
    const current = board.value!.plan;
    const lanes: Record<string, string[]> = {};
    for (const [name, lane] of Object.entries(current.lanes)) {
      const own = lane.filter((job) => planned.value.has(job));
      const was = own.indexOf(id);
      lanes[name] = own.filter((job) => job !== id);
      // Places are counted with the job still in its lane.
      if (name === machine) lanes[name].splice(was >= 0 && was < at ? at - 1 : at, 0, id);
    }
    if (machine !== undefined && lanes[machine] === undefined) lanes[machine] = [id];
    return { ...current, lanes };
  }

  const move = (id: string, place: BoardPlace): Promise<void> => write(moved(id, place));
  /** What would be late were a job put there. */
  const weigh = (id: string, place: BoardPlace): BoardOutcome => outcomeOf(moved(id, place));

  async function sewn(id: string): Promise<void> {
    const { lanes, sewn: done, ...rest } = board.value!.plan;
    const without = Object.fromEntries(Object.entries(lanes).map(([name, lane]) => [name, lane.filter((job) => job !== id)]));
    await write({ ...rest, lanes: without, sewn: [...done, id] });
  }

  const change = (more: Partial<Pick<BoardPlan, 'hours' | 'hooping' | 'isHoopedAhead'>>): Promise<void> =>
    write({ ...board.value!.plan, ...more });
  const undo = async (): Promise<void> => {
    const back = before.value;
    if (back === undefined) return;
    await write(back);
    before.value = undefined;
  };

  /** Proposes a plan of all orders on all machines. */
  async function propose(): Promise<void> {
    isPlanning.value = true;
    const worker = new Worker(new URL('../workers/plan.worker.ts', import.meta.url), { type: 'module' });
    try {
      const lanes = await wrap<PlanWorkerApi>(worker).planLanes([...planned.value.values()], machines.value.length);
      proposed.value = { ...board.value!.plan, lanes: Object.fromEntries(machines.value.map(({ id }, k) => [id, lanes[k]!])) };
    } finally {
      worker.terminate();
      isPlanning.value = false;
    }
  }

  const takeUp = (): Promise<void> => write(proposed.value!);
  const leave = (): void => void (proposed.value = undefined);

  return {
    ...{ board, before, proposed, plan, isPlanning, now, machines, open, planned, outcome, standing, unplanned },
    ...{ momentOf, lanesOf, load, move, weigh, sewn, change, undo, propose, takeUp, leave },
  };
});
