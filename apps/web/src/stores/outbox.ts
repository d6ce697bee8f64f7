import type { JobSummary } from '@isola/contract';
import type { JournalEntry } from '@isola/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { api, ApiError } from '../api/client.ts';
import { claimTab, forGoneTab } from './unsent/tabs.ts';
import { dropSteps, keepSteps, readSteps, takeLegacy, takeOver } from './unsent/unsentDb.ts';

/** `conflict`: the job has moved on; `refused`: a step does not fit, or the job is gone. Both wait for a decision; all else goes on by itself. */
export type SendingState = 'sending' | 'offline' | 'conflict' | 'refused';

/** What of a job is not acknowledged. */
export interface Outgoing {
  readonly jobId: string;
  readonly jobName: string;
  readonly state: SendingState;
  /** In words, where it is not being sent. */
  readonly reason: string;
  /** The version that the page had taken up when the first of the entries was made. */
  readonly version: number;
  /** Entries of this window that are stored since then: others' lie between them, which the page has not taken up yet. */
  readonly own: readonly string[];
  /** They are on the server by now, as a branch beside what others did. */
  readonly isAside: boolean;
  readonly entries: readonly JournalEntry[];
  /** Where the browser keeps each; none where it has no room for it. */
  readonly orders: readonly (number | undefined)[];
}

const FIRST_RETRY = 1500;
const LONGEST_RETRY = 15_000;
/** So many steps go in one request; the server takes twice as many. */
const MOST_AT_ONCE = 100;

/**
 * Steps on their way to the server, of all jobs: each is kept in the browser before it is sent and until it is acknowledged, and sent by the window
 * that made it, or by another one when that is gone. A lost connection is tried again without end.
 */
export const useOutbox = defineStore('outbox', () => {
  const queues = shallowRef<ReadonlyMap<string, Outgoing>>(new Map());
  const savedAt = ref<Date>();
  /** Why steps are not kept in the browser, where that is so. */
  const keepProblem = ref('');
  const unsentCount = computed(() => [...queues.value.values()].reduce((sum, { entries }) => sum + entries.length, 0));
  const tab = claimTab();
  const listeners = new Set<(job: JobSummary, entryId: string, isMerged: boolean) => void>();
  /** By job: what is stored of this window on top of steps of others that its page has not taken up. */
  const merged = new Map<string, readonly string[]>();
  const sending = new Map<string, Promise<void>>();
  const timers = new Map<string, { timer: ReturnType<typeof setTimeout>; wait: number }>();
  /** Keeping is done in the order in which steps were made. */
  let keeping: Promise<unknown> = Promise.resolve();

  function set(queue: Outgoing): void {
    const next = new Map(queues.value);
    if (queue.entries.length === 0) next.delete(queue.jobId);
    else next.set(queue.jobId, queue);
    queues.value = next;
  }

  function change(jobId: string, changed: Partial<Outgoing>): void {
    const queue = queues.value.get(jobId);
    if (queue !== undefined) set({ ...queue, ...changed });
  }

  /** Takes a step on its way. `version` is what the job is at on the server, where nothing of it is on its way yet. */
  function add(job: Pick<JobSummary, 'id' | 'name'>, version: number, entry: JournalEntry): Promise<void> {
    const known = queues.value.get(job.id) ?? { ...emptyQueue(job.id, job.name, version), own: merged.get(job.id) ?? [] };
    set({ ...known, entries: [...known.entries, entry], orders: [...known.orders, undefined] });
    const step = { jobId: job.id, jobName: job.name, tab, version: known.version + known.entries.length, entry };
    const kept = keeping.then(async () => {
      const order = await keepAll([step]);
      const queue = queues.value.get(job.id);
      const at = queue?.entries.findIndex(({ id }) => id === entry.id) ?? -1;
      // It may be acknowledged by now.
      if (at < 0) await dropAll(order);
      else change(job.id, { orders: queue!.orders.map((o, k) => (k === at ? order[0] : o)) });
    });
    keeping = kept;
    void send(job.id);
    return kept;
  }

  /** Entries of a job that are to be sent instead of those that wait; none lets them go. */
  async function replace(job: Pick<JobSummary, 'id' | 'name'>, version: number, entries: readonly JournalEntry[]): Promise<void> {
    const old = queues.value.get(job.id);
    stopWaiting(job.id);
    set({ ...emptyQueue(job.id, job.name, version), entries: [...entries], orders: entries.map(() => undefined) });
    await keeping;
    const steps = entries.map((entry, k) => ({ jobId: job.id, jobName: job.name, tab, version: version + k, entry }));
    const orders = await keepAll(steps);
    await dropAll(old?.orders ?? []);
    change(job.id, { orders });
    void send(job.id);
  }

  async function keepAll(steps: Parameters<typeof keepSteps>[0]): Promise<(number | undefined)[]> {
    if (steps.length === 0) return [];
    try {
      const orders = await keepSteps(steps);
      keepProblem.value = '';
      return orders;
    } catch (error) {
      const isFull = error instanceof DOMException && error.name === 'QuotaExceededError';
      keepProblem.value = isFull ? 'The browser has no room left to keep steps.' : 'The browser keeps nothing for this page.';
      return steps.map(() => undefined);
    }
  }

  async function dropAll(orders: readonly (number | undefined)[]): Promise<void> {
    const kept = orders.filter((order) => order !== undefined);
    // What cannot be dropped is sent once more at another time, and known by the server.
    if (kept.length > 0) await dropSteps(kept).catch(() => undefined);
  }

  /** Sends what waits of a job, and is kept when that is done, or cannot be done now. */
  function send(jobId: string): Promise<void> {
    const running = sending.get(jobId) ?? sendAll(jobId).finally(() => sending.delete(jobId));
    sending.set(jobId, running);
    return running;
  }

  async function sendAll(jobId: string): Promise<void> {
    for (;;) {
      const queue = queues.value.get(jobId);
      if (queue === undefined || isHeld(queue.state)) return;
      const entries = queue.entries.slice(0, MOST_AT_ONCE);
      try {
        const job = await api.append(jobId, queue.version, entries, queue.own);
        // At once, so that a step that is made meanwhile goes on top of these.
        const [orders, isMerged] = acknowledge(jobId, entries, job.version);
        listeners.forEach((hear) => hear(job, entries.at(-1)!.id, isMerged));
        savedAt.value = new Date();
        stopWaiting(jobId);
        await dropAll(orders);
      } catch (error) {
        await settle(jobId, error);
        return;
      }
    }
  }

  /**
   * The first steps of a job are on the server, which is at a version by then; gives where the browser keeps them still, and whether steps of others
   * lie before them.
   */
  function acknowledge(jobId: string, entries: readonly JournalEntry[], version: number): [orders: Outgoing['orders'], isMerged: boolean] {
    const queue = queues.value.get(jobId);
    if (queue === undefined) return [[], false];
    const count = entries.length;
    const isMerged = version > queue.version + queue.own.length + count;
    const own = isMerged ? [...queue.own, ...entries.map(({ id }) => id)] : [];
    if (isMerged) merged.set(jobId, own);
    else merged.delete(jobId);
    const rest = { entries: queue.entries.slice(count), orders: queue.orders.slice(count), own };
    set({ ...queue, ...rest, version: isMerged ? queue.version : Math.max(queue.version, version), state: 'sending', reason: '' });
    return [queue.orders.slice(0, count), isMerged];
  }

  /** The page has taken up all that a job was at a version: what waits goes on top of that. `ids`: of entries that are in it. */
  function takenUp(jobId: string, version: number, ids: ReadonlySet<string>): void {
    const own = (merged.get(jobId) ?? []).filter((id) => !ids.has(id));
    if (own.length > 0) merged.set(jobId, own);
    else merged.delete(jobId);
    change(jobId, { version, own });
  }

  async function settle(jobId: string, error: unknown): Promise<void> {
    const { status, details } = error instanceof ApiError ? error : { status: 0, details: undefined };
    const reason = error instanceof Error ? error.message : String(error);
    if (status === 409) {
      // What the server has is not asked about.
      const queue = queues.value.get(jobId);
      const known = queue?.entries.slice(0, details?.known ?? 0) ?? [];
      const [orders] = acknowledge(jobId, known, (queue?.version ?? 0) + (queue?.own.length ?? 0) + known.length);
      await dropAll(orders);
      await keepAside(jobId, reason);
    } else if (status >= 400 && status < 500 && status !== 429) change(jobId, { state: 'refused', reason });
    else {
      change(jobId, { state: 'offline', reason });
      const { wait = FIRST_RETRY / 2 } = timers.get(jobId) ?? {};
      const next = Math.min(LONGEST_RETRY, wait * 2);
      timers.set(jobId, { timer: setTimeout(() => void send(jobId), next), wait: next });
    }
  }

  /** Steps that others' do not go together with are on the server as a branch before anybody is asked what becomes of them. */
  async function keepAside(jobId: string, reason: string): Promise<void> {
    const queue = queues.value.get(jobId);
    if (queue === undefined) return;
    const isAside =
      queue.entries.some(({ kind }) => kind === 'do') &&
      (await api.keepAside(jobId, queue.version, queue.entries, queue.own).then(
        () => true,
        () => false,
      ));
    change(jobId, { state: 'conflict', reason, isAside });
  }

  /** Steps of a job wait for a decision: they no longer go on top of it. */
  function hold(jobId: string, state: 'conflict' | 'refused', reason: string): void {
    stopWaiting(jobId);
    change(jobId, { state, reason });
  }

  function stopWaiting(jobId: string): void {
    clearTimeout(timers.get(jobId)?.timer);
    timers.delete(jobId);
  }

  /** Takes up what windows that are gone left unsent, and sends it. */
  async function takeUp(): Promise<void> {
    try {
      await takeLegacy(tab);
      const tabs = new Set((await readSteps()).map((step) => step.tab));
      for (const other of tabs) if (other !== tab) await forGoneTab(other, () => takeStepsOf(other));
      await takeStepsOf(tab);
    } catch {
      // The browser keeps nothing for this page; that is said when there is something to keep.
    }
  }

  async function takeStepsOf(other: string): Promise<void> {
    const left = (await readSteps()).filter((step) => step.tab === other);
    if (other !== tab) await takeOver(left, tab);
    for (const jobId of new Set(left.map((step) => step.jobId))) {
      const known = queues.value.get(jobId);
      const steps = left.filter((step) => step.jobId === jobId && known?.entries.every(({ id }) => id !== step.entry.id) !== false);
      if (steps.length === 0) continue;
      const queue = known ?? emptyQueue(jobId, steps[0]!.jobName, steps[0]!.version);
      const [entries, orders] = [steps.map((step) => step.entry), steps.map((step) => step.order)];
      set({ ...queue, entries: [...queue.entries, ...entries], orders: [...queue.orders, ...orders] });
      void send(jobId);
    }
  }

  /** Hears of a job when steps of it are stored, as far as an entry; `isMerged`: on top of others' that the page has not taken up. */
  function onSaved(hear: (job: JobSummary, entryId: string, isMerged: boolean) => void): () => void {
    listeners.add(hear);
    return () => listeners.delete(hear);
  }

  return { queues, savedAt, keepProblem, unsentCount, add, replace, send, hold, takeUp, takenUp, onSaved };
});

function emptyQueue(jobId: string, jobName: string, version: number): Outgoing {
  return { jobId, jobName, state: 'sending', reason: '', version, own: [], isAside: false, entries: [], orders: [] };
}

/** Whether steps wait for a decision. */
export const isHeld = (state: SendingState | undefined): boolean => state === 'conflict' || state === 'refused';
