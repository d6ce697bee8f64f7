import type { Lessons, SewOutRecord } from '@isola/contract';
import { expectRun, type Fabric, type Machine, type SamplePlace, type SewOut, expectedAt } from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '../api/client.ts';
import type { SampledState } from '../workers/compareProtocol.ts';
import { useBench } from './bench.ts';
import { defineDocumentStore } from './documentStore.ts';
import { useHistory } from './history.ts';
import { keepDraft, keptDraft } from './sampleDrafts.ts';
import { useShop } from './shop.ts';
import { forget, type ShownDesign, showView } from './trials.ts';

/** Samples that were sewn of the job on the bench: one of them is looked at or being recorded, on the revision that it was sewn of. */
export const useSewOuts = defineDocumentStore('sewOuts', (document) => {
  const bench = useBench(document);
  const history = useHistory(document);
  const shop = useShop();
  const records = shallowRef<readonly SewOutRecord[]>();
  /** What is being recorded or changed; `record`: what it is a change of. */
  const draft = shallowRef<SewOut>();
  const record = shallowRef<SewOutRecord>();
  /** A new draft as it was begun. */
  const begun = shallowRef<SewOut>();
  const sampled = shallowRef<SampledState & { readonly shown: ShownDesign }>();
  const lessons = shallowRef<Lessons>();
  const isLooking = ref(false);
  let ticket = 0;

  const isChanged = computed(() => draft.value !== undefined && draft.value !== (record.value?.sewOut ?? begun.value));
  watch([draft, isChanged], ([sewOut, isOther]) => {
    const job = bench.job?.id;
    if (job === undefined || sewOut === undefined) return;
    keepDraft(job, isOther ? { sewOut, record: record.value?.id ?? null } : undefined);
  });
  /** The last release, or the last that was kept. */
  const usualRevision = computed(() => {
    const revisions = bench.job?.revisions ?? [];
    return revisions.findLast(({ isRelease }) => isRelease)?.number ?? revisions.at(-1)?.number ?? 1;
  });

  async function load(): Promise<void> {
    const id = bench.job?.id;
    if (id === undefined) return;
    records.value = await api.sewOuts(id);
  }

  /** Brings a revision into view. */
  async function lookAt(number: number): Promise<void> {
    const mine = ++ticket;
    isLooking.value = true;
    try {
      const step = history.revisions.get(number);
      const state = await bench.sampleState(number === 1 ? 'file' : step === undefined ? `kept ${number}` : (step ?? 'start'));
      if (mine !== ticket || state === undefined) return;
      const shown = await showView(state.view);
      if (mine !== ticket) return forget(shown);
      forget(sampled.value?.shown);
      sampled.value = { ...state, shown };
    } finally {
      if (mine === ticket) isLooking.value = false;
    }
  }

  async function lookAtLessons(): Promise<void> {
    const of = draft.value;
    if (of !== undefined) lessons.value = await api.lessons(of.fabric.id, of.machine.id);
  }

  /** Begins to record a sample of a revision: sewn today, as the job has it. */
  async function begin(number = usualRevision.value): Promise<void> {
    await lookAt(number);
    const at = sampled.value;
    if (at === undefined) return;
    begun.value = undefined;
    const { program, target } = at.view;
    const { fabric, garment, thread, machine } = target;
    record.value = undefined;
    draft.value = {
      ...{ revision: number, sewnOn: today(), who: shop.who.trim(), fabric, garment, thread, machine, minutes: null },
      ...{ expected: expectRun(program, machine), breaks: 0, puckering: 'none', note: '', counts: true },
      places: [...at.places],
    };
    begun.value = draft.value;
    await lookAtLessons();
  }

  /** It was another revision that was sewn: its places are others, and what was written down besides stays. */
  async function beginOf(number: number): Promise<void> {
    const { sewnOn, who, minutes, breaks, puckering, note, counts } = draft.value!;
    await begin(number);
    change({ sewnOn, who, minutes, breaks, puckering, note, counts });
  }

  /** Takes up what was written and not recorded, or else the last sample, or a new one. */
  async function resume(wanted?: string): Promise<void> {
    const left = bench.job === undefined ? undefined : keptDraft(bench.job.id);
    const of = records.value?.find(({ id }) => id === (left?.record ?? wanted));
    if (left !== undefined && (left.record === null || of !== undefined)) {
      await (of === undefined ? begin(left.sewOut.revision) : open(of));
      draft.value = left.sewOut;
      return lookAtLessons();
    }
    const last = of ?? records.value?.[0];
    await (last === undefined ? begin() : open(last));
  }

  /** What was written goes: the sample is as it was recorded, or as it was begun. */
  function putBack(): void {
    draft.value = record.value?.sewOut ?? begun.value;
  }

  async function open(one: SewOutRecord): Promise<void> {
    begun.value = undefined;
    [record.value, draft.value] = [one, one.sewOut];
    await Promise.all([lookAt(one.sewOut.revision), lookAtLessons()]);
  }

  function change(more: Partial<SewOut>): void {
    if (draft.value !== undefined) draft.value = { ...draft.value, ...more };
  }

  /** Sewn on another cloth or machine than the job has: what was expected of them is another. */
  async function sewnOn(more: { readonly fabric?: Fabric; readonly machine?: Machine }): Promise<void> {
    const { fabric, machine } = more;
    if (fabric !== undefined) change({ fabric, places: draft.value!.places.map((place) => expect(place, fabric)) });
    if (machine !== undefined && sampled.value !== undefined) change({ machine, expected: expectRun(sampled.value.view.program, machine) });
    await lookAtLessons();
  }

  async function save(): Promise<SewOutRecord> {
    const sewOut = draft.value!;
    const old = record.value;
    const saved = old === undefined ? await api.addSewOut(bench.job!.id, sewOut) : await api.changeSewOut(old.id, old.version, sewOut);
    take(saved);
    draft.value = saved.sewOut;
    keepDraft(bench.job!.id, undefined);
    await lookAtLessons();
    return saved;
  }

  /** What the server says of a sample, here too. */
  function take(saved: SewOutRecord): void {
    // What is being changed stays so; what is only looked at is what was stored last.
    if (!isChanged.value) draft.value = saved.sewOut;
    const known = records.value ?? [];
    records.value = known.some(({ id }) => id === saved.id) ? known.map((one) => (one.id === saved.id ? saved : one)) : [saved, ...known];
    record.value = saved;
  }

  function close(): void {
    ticket++;
    forget(sampled.value?.shown);
    [records.value, draft.value, record.value, sampled.value, lessons.value] = [undefined, undefined, undefined, undefined, undefined];
  }

  return {
    ...{ records, draft, record, sampled, lessons, isLooking, isChanged, usualRevision },
    ...{ load, begin, beginOf, resume, putBack, open, change, sewnOn, save, take, lookAtLessons, close },
  };
});

/** YYYY-MM-DD where the browser is. */
function today(): string {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
}

const expect = (place: SamplePlace, { pull }: Fabric): SamplePlace => ({ ...place, expected: expectedAt(place, pull) });
