import type { JobDetail, JobSummary } from '@isola/contract';
import type { AdaptScope, AdaptWay, Finding, JournalEntry, Operation, PredictedGap, StitchObject, Target, ThreadType } from '@isola/core';
import type { Remote } from 'comlink';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { api } from '../api/client.ts';
import type { ClothViewKind } from '../workers/clothProtocol.ts';
import type { EngineApi, Opened, Side, StepView } from '../workers/protocol.ts';
import { clothWorker, startEngine } from '../workers/startWorkers.ts';
import { rowsDone } from './rowsDone.ts';
import { createSaving } from './saving.ts';
import { createTrials, forget, type ShownDesign, showView } from './trials.ts';

/** One job on the bench: its design, its history, what is being tried and what is looked at. Designs are held whole, never deeply watched. */
export const useBench = defineStore('bench', () => {
  const job = shallowRef<JobDetail>();
  const failure = ref<{ title: string; text: string }>();
  const isOpening = ref(false);
  const isBusy = ref(false);
  const now = shallowRef<ShownDesign>();
  const before = shallowRef<ShownDesign>();
  const done = shallowRef<readonly StepView[]>([]);
  const undone = shallowRef<readonly StepView[]>([]);
  const selected = ref<string>();
  const kind = ref<ClothViewKind>('thread');
  /** Seconds into the run up to which the cloth is sewn; none shows it whole. */
  const time = ref<number>();
  const isPlaying = ref(false);
  /** Counts the cover maps that were handed to the drawing worker, so that pictures of them are drawn anew. */
  const coverCount = ref(0);
  const saving = createSaving(takeSummary);

  let engine: Remote<EngineApi> | undefined;
  let stopEngine: (() => void) | undefined;
  let opening = 0;
  const { trial, shown, pictured, coming, tryRepairs, trySpecs, notePicture, dropTrial } = createTrials(() => engine, now, isBusy);

  const openFindings = computed<readonly Finding[]>(() => now.value?.view.findings.filter((f) => !(f.key in now.value!.view.kept)) ?? []);
  const keptFindings = computed(() => Object.entries(now.value?.view.kept ?? {}).map(([key, kept]) => ({ key, ...kept })));
  const selectedFinding = computed(() => openFindings.value.find((f) => f.key === selected.value));
  const rowCount = computed(() => shown.value?.view.program.rowCount ?? 0);
  /** Rows before this one are sewn at `time`. */
  const upTo = computed(() =>
    time.value === undefined || shown.value === undefined ? rowCount.value : rowsDone(shown.value.view.done, time.value),
  );
  /** The same for what the cloth shows. */
  const picturedUpTo = computed(() => (time.value === undefined ? Infinity : upTo.value));

  async function open(id: string): Promise<void> {
    const ticket = ++opening;
    close();
    isOpening.value = true;
    try {
      const [detail, bytes] = await Promise.all([api.job(id), api.file(id)]);
      if (ticket !== opening) return;
      ({ engine, stop: stopEngine } = startEngine());
      const entries = detail.journal.map((record) => record.entry);
      const opened = await engine.open(bytes, detail.initialTarget, entries);
      if (ticket !== opening) return;
      job.value = detail;
      await show(opened);
      await takeUpUnsent(detail);
    } catch (error) {
      if (ticket !== opening) return;
      failure.value = { title: 'This job cannot be opened', text: error instanceof Error ? error.message : String(error) };
    } finally {
      if (ticket === opening) isOpening.value = false;
    }
  }

  /** Steps of an earlier page that the server never acknowledged go on top, or are asked about where the job has moved on since. */
  async function takeUpUnsent(detail: JobDetail): Promise<void> {
    const left = saving.start(detail.id, detail.version);
    if (left === undefined) return;
    const known = new Set(detail.journal.map((record) => record.entry.id));
    const entries = left.entries.filter((entry) => !known.has(entry.id));
    if (entries.length === 0) saving.forget();
    else if (left.baseVersion + (left.entries.length - entries.length) === detail.version) await putOnTop(entries);
    else {
      saving.unsent.value = { baseVersion: detail.version, entries };
      saving.state.value = 'conflict';
    }
  }

  function close(): void {
    stopEngine?.();
    stopEngine = undefined;
    engine = undefined;
    saving.stop();
    dropTrial();
    [now.value, before.value].forEach(forget);
    job.value = undefined;
    now.value = undefined;
    before.value = undefined;
    done.value = [];
    undone.value = [];
    selected.value = undefined;
    time.value = undefined;
    isPlaying.value = false;
    failure.value = undefined;
  }

  async function perform(name: string, operation: Operation): Promise<boolean> {
    return enter({ id: crypto.randomUUID(), kind: 'do', name: name.slice(0, 200), operation: structuredClone(operation) });
  }

  async function undo(): Promise<void> {
    await enter({ id: crypto.randomUUID(), kind: 'undo' });
  }

  async function redo(): Promise<void> {
    await enter({ id: crypto.randomUUID(), kind: 'redo' });
  }

  let turn: Promise<unknown> = Promise.resolve();

  /** Steps are made one after another, however fast they are asked for. */
  function enter(entry: JournalEntry): Promise<boolean> {
    const mine = turn.then(() => make(entry));
    turn = mine.catch(() => undefined);
    return mine;
  }

  async function make(entry: JournalEntry): Promise<boolean> {
    if (engine === undefined || saving.state.value === 'conflict' || saving.state.value === 'refused') return false;
    if ((entry.kind === 'undo' && done.value.length === 0) || (entry.kind === 'redo' && undone.value.length === 0)) return false;
    isBusy.value = true;
    try {
      const changed = await engine.extend([entry]);
      if (!changed.ok) throw new Error(`This step does not fit: ${changed.reason}.`);
      await show(changed);
      saving.add(entry);
      return true;
    } finally {
      isBusy.value = false;
    }
  }

  async function knowObjects(key: string, objects: readonly StitchObject[], ownerOfRow: Int32Array): Promise<void> {
    await engine?.knowObjects(key, objects, ownerOfRow);
  }

  const adaptThread = (thread: ThreadType, way: AdaptWay, scope?: AdaptScope) => engine?.adaptThread(structuredClone(thread), way, scope);
  const proposeOpening = (budget: number) => engine?.proposeOpening(budget);

  /** Hands the drawing worker where the penetrations will lie, and gives the gaps that will open. */
  async function predict(side: Side): Promise<readonly PredictedGap[]> {
    const target = side === 'trial' ? trial.value?.shown : now.value;
    const prediction = await engine?.predict(side);
    if (prediction === undefined || target === undefined) return [];
    await clothWorker().setSewn(target.number, prediction.x, prediction.y);
    coverCount.value++;
    return prediction.gaps;
  }

  /** Makes what is being tried: one step, one undo. */
  async function acceptTrial(): Promise<boolean> {
    const tried = trial.value;
    if (tried === undefined) return false;
    return perform(tried.trial.name, tried.trial.operation);
  }

  async function keepFinding(finding: Finding, reason: string): Promise<void> {
    const { key, rule, message } = finding;
    await perform(`keep: ${message}`, { id: 'keep-finding', key, rule, title: message, reason });
  }

  async function reopenFinding(key: string, title: string): Promise<void> {
    await perform(`look again: ${title}`, { id: 'reopen-finding', key });
  }

  async function setTarget(name: string, target: Target): Promise<void> {
    await perform(name, { id: 'set-target', target });
  }

  /** After a conflict: what the other window did stays, and the steps made here are made again on top, or let go. */
  async function settleConflict(isKept: boolean): Promise<void> {
    const id = job.value?.id;
    if (id === undefined) return;
    const entries = isKept ? saving.unsent.value.entries : [];
    saving.forget();
    await open(id);
    if (entries.length > 0 && failure.value === undefined) await putOnTop(entries.map((entry) => ({ ...entry, id: crypto.randomUUID() })));
  }

  async function putOnTop(entries: readonly JournalEntry[]): Promise<void> {
    const version = job.value!.version;
    const changed = await engine!.extend(structuredClone([...entries]));
    if (!changed.ok) {
      saving.forget();
      throw new Error(`Your unsaved steps no longer fit this job (${changed.reason}) and were let go. Its other steps are as they were.`);
    }
    await show(changed);
    saving.restart(version, entries);
  }

  async function cover(side: Side): Promise<void> {
    const target = side === 'trial' ? trial.value?.shown : side === 'before' ? before.value : now.value;
    if (engine === undefined || target === undefined) return;
    const map = await engine.cover(side);
    if (map === undefined) return;
    await clothWorker().setCover(target.number, map);
    coverCount.value++;
  }

  async function show(opened: Opened): Promise<void> {
    dropTrial();
    const old = [now.value, opened.before === undefined ? undefined : before.value];
    const [shownNow, shownBefore] = await Promise.all([
      showView(opened.now),
      opened.before === undefined ? before.value : showView(opened.before),
    ]);
    now.value = shownNow;
    before.value = shownBefore;
    done.value = opened.done;
    undone.value = opened.undone;
    if (time.value !== undefined) time.value = Math.min(time.value, opened.now.totals.seconds);
    old.forEach(forget);
  }

  function takeSummary(summary: JobSummary): void {
    if (job.value?.id === summary.id) job.value = { ...job.value, ...summary };
  }

  return {
    ...{ job, failure, isOpening, isBusy, now, before, trial, done, undone, selected, kind, time, isPlaying, coverCount, saving },
    ...{ shown, pictured, coming, picturedUpTo, openFindings, keptFindings, selectedFinding, rowCount, upTo },
    ...{
      open,
      close,
      perform,
      undo,
      redo,
      tryRepairs,
      trySpecs,
      notePicture,
      knowObjects,
      adaptThread,
      proposeOpening,
      predict,
      dropTrial,
      acceptTrial,
      keepFinding,
      reopenFinding,
      setTarget,
      settleConflict,
      cover,
    },
  };
});

/** Findings as the docket numbers them: from 1, worst first. */
export function numberFindings(findings: readonly Finding[]): ReadonlyMap<string, number> {
  return new Map(findings.map((f, k) => [f.key, k + 1]));
}
