import type { HistoryStep, JobHistory } from '@isola/contract';
import { computed, shallowRef, watch } from 'vue';
import { api } from '../api/client.ts';
import { useBench } from './bench.ts';
import { defineDocumentStore } from './documentStore.ts';

const NOTHING: JobHistory = { version: 0, earlier: [], steps: [], now: null, branches: [], revisions: [] };

/** All that was ever done to the job on the bench, as the tree that it is, once somebody wants to see it. */
export const useHistory = defineDocumentStore('history', (document) => {
  const bench = useBench(document);
  const stored = shallowRef<JobHistory>();
  /** So many screens show it. */
  let watchers = 0;

  /** The steps as they are on the bench: those that are not saved yet are among them. */
  const steps = computed<readonly HistoryStep[]>(() => {
    const known = stored.value?.steps ?? [];
    const ids = new Set(known.map(({ id }) => id));
    const own = bench.done.filter(({ isFixed }) => !isFixed);
    const unsaved = own.flatMap(({ id, name, reason, isTarget }, k): HistoryStep[] => {
      if (ids.has(id)) return [];
      return [{ id, parent: own[k - 1]?.id ?? null, seq: 0, at: '', name, reason: reason ?? null, isTarget, who: null }];
    });
    return [...known, ...unsaved];
  });
  const now = computed(() => bench.done.findLast(({ isFixed }) => !isFixed)?.id ?? null);
  /** What can be done again, the next one first. */
  const ahead = computed(() => bench.undone.map(({ id }) => id).reverse());
  const names = computed(() => new Map((stored.value ?? NOTHING).branches.map(({ step, name }) => [step, name])));
  /** The step that each revision shows, by its number; null: what the steps begin with. */
  const revisions = computed(() => new Map((stored.value ?? NOTHING).revisions.map(({ number, step }) => [number, step])));
  const earlier = computed(() => (stored.value ?? NOTHING).earlier);
  const isKnown = computed(() => stored.value !== undefined);

  async function load(): Promise<void> {
    const id = bench.job?.id;
    if (id === undefined) return;
    const read = await api.history(id);
    if (bench.job?.id === id) stored.value = read;
  }

  watch(
    () => bench.job?.id,
    () => (stored.value = undefined),
  );
  watch(
    () => [bench.job?.version, bench.job?.revisions.length],
    () => {
      if (watchers > 0) load().catch(() => undefined);
    },
  );

  /** Keeps it up to date until what is given back is called. */
  function show(): () => void {
    watchers++;
    // Where the server cannot be reached, steps of this page are shown, and it is asked again with the next one.
    load().catch(() => undefined);
    return () => void watchers--;
  }

  /** Names the branch that a step begins; no name lets the one that it had go. */
  async function nameBranch(step: string, name: string): Promise<void> {
    stored.value = await api.nameBranch(bench.job!.id, step, name);
  }

  /** Puts what a revision shows on the bench. @throws where that is from before steps were kept by objects */
  async function goToRevision(number: number): Promise<void> {
    if (!isKnown.value || !revisions.value.has(number)) await load();
    const step = revisions.value.get(number);
    if (step === undefined) throw new Error('It is from before steps were kept by objects, and can be downloaded but not put back.');
    await bench.goTo(step);
  }

  return { steps, now, ahead, names, revisions, earlier, isKnown, load, show, nameBranch, goToRevision };
});
