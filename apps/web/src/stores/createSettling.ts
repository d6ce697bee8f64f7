import type { JobDetail, JobSummary } from '@isola/contract';
import type { Figures, JournalEntry } from '@isola/core';
import { computed, type ShallowRef, shallowRef, watch } from 'vue';
import type { Weighed } from '../workers/protocol.ts';
import { clothWorker, nextProgramNumber, startEngine } from '../workers/startWorkers.ts';
import { askForJob, entriesOf, loadJob, openJob } from './loadJob.ts';
import { isHeld, useOutbox } from './outbox.ts';

/** What would become of steps on top of what the job is now. */
export interface Settling {
  /** What it is now: the version, and figures without the steps and with those that fit. */
  readonly version: number;
  readonly before: Figures;
  readonly after: Figures;
  readonly steps: readonly { readonly entry: JournalEntry; readonly problem: string | undefined }[];
}

/** What of the job on the bench is not acknowledged, and how it is settled where it no longer goes on top of the job. */
export function createSettling(job: ShallowRef<JobDetail | undefined>, open: (id: string) => Promise<void>) {
  const outbox = useOutbox();
  const outgoing = computed(() => (job.value === undefined ? undefined : outbox.queues.get(job.value.id)));
  /** Steps that wait for a decision, weighed on what the job is now, or why they cannot be. */
  const settling = shallowRef<Settling | { readonly problem: string }>();

  /** Steps of this job that wait for a decision are weighed on what it is now, as soon as they do. */
  watch(
    () => isHeld(outgoing.value?.state) && outgoing.value,
    async (held) => {
      settling.value = undefined;
      if (held === false || held === undefined) return;
      // What is on its own branch already is made again as other steps.
      const weighed = await weighSteps({ id: held.jobId }, held.isAside ? anew(held.entries) : held.entries).catch((error: unknown) => ({
        problem: error instanceof Error ? error.message : String(error),
      }));
      if (outgoing.value === held) settling.value = weighed;
    },
  );

  /** Those that fit are made again on top of what the job is now, or all are let go. */
  async function settle(isKept: boolean): Promise<void> {
    const held = outgoing.value;
    const weighed = settling.value;
    if (held === undefined || job.value === undefined) return;
    const fitting = weighed !== undefined && 'steps' in weighed ? weighed.steps.filter(({ problem }) => problem === undefined) : [];
    const version = weighed !== undefined && 'steps' in weighed ? weighed.version : held.version;
    const { id, name } = job.value;
    await outbox.replace({ id, name }, version, isKept ? fitting.map(({ entry }) => entry) : []);
    await outbox.send(id);
    if (!isHeld(outgoing.value?.state)) await open(id);
  }

  return { outgoing, settling, settle };
}

/** The same steps under ids of their own. */
function anew(entries: readonly JournalEntry[]): JournalEntry[] {
  const ids = new Map(entries.map(({ id }) => [id, crypto.randomUUID()]));
  const of = (id: string): string => ids.get(id) ?? id;
  return entries.map((entry) => {
    const id = of(entry.id);
    if (entry.kind === 'go') return { ...entry, id, to: entry.to === null ? null : of(entry.to) };
    if (entry.kind === 'do' || entry.step === undefined) return { ...entry, id };
    return { ...entry, id, step: of(entry.step) };
  });
}

/** Tries steps on a job as the server has it now, beside the design on the bench, which stays as it is. */
async function weighSteps(job: Pick<JobSummary, 'id'>, entries: readonly JournalEntry[]): Promise<Settling> {
  const number = nextProgramNumber();
  const unheard = (): void => undefined;
  const { engine, stop } = startEngine(unheard);
  try {
    const { detail } = await openJob(engine, askForJob(engine, job.id, unheard), job.id, unheard, number);
    let weighed: Weighed = await engine.weigh(structuredClone([...entries]));
    if (weighed.isFar) {
      const first = await loadJob(job.id, unheard, 'start');
      await engine.reachBack(first.base, entriesOf(first.detail));
      weighed = await engine.weigh(structuredClone([...entries]));
    }
    const { before, after, problems } = weighed;
    return { version: detail.version, before, after, steps: entries.map((entry, k) => ({ entry, problem: problems[k] })) };
  } finally {
    stop();
    void clothWorker().dropProgram(number);
  }
}
