import type { JobDetail } from '@isola/contract';
import { type Finding, type JournalEntry, type Operation, PLAIN_RECOGNIZER, type Target } from '@isola/core';
import type { Remote } from 'comlink';
import { computed, ref, shallowRef, watch } from 'vue';
import { defineDocumentStore } from './documentStore.ts';
import type { Progress } from '../api/client.ts';
import type { Changed, EngineApi, Opened, StepView } from '../workers/protocol.ts';
import { clothWorker, nextProgramNumber, startEngine } from '../workers/startWorkers.ts';
import { gatherKept } from './gatherKept.ts';
import { hearChanges } from './hearChanges.ts';
import { askForJob, entriesOf, loadJob, openJob } from './loadJob.ts';
import { useNotices } from './notices.ts';
import { rowsDone } from './rowsDone.ts';
import { isHeld, useOutbox } from './outbox.ts';
import { createFollowing } from './createFollowing.ts';
import { createStates } from './createStates.ts';
import { createProgramCheck } from './createProgramCheck.ts';
import { createSettling } from './createSettling.ts';
import { createWork } from './createWork.ts';
import { useSession } from './session.ts';
import { useViewing } from './viewing.ts';
import { createTrials, forget, type ShownDesign, showView } from './trials.ts';

const TOO_MUCH =
  'This file would take longer to recognize than anybody waits: each of its stretches is one object of no kind. Read parts of it anew on Rework.';

/** One job on the bench: its design, its history, what is being tried and what is looked at. Designs are held whole, never deeply watched. */
export const useBench = defineDocumentStore('bench', (document) => {
  const job = shallowRef<JobDetail>();
  const failure = ref<{ title: string; text: string }>();
  const isOpening = ref(false);
  /** How far the server is with recognizing the file's objects, while it is opened for the first time. */
  const reading = ref<Progress>();
  const isBusy = ref(false);
  const now = shallowRef<ShownDesign>();
  const before = shallowRef<ShownDesign>();
  const done = shallowRef<readonly StepView[]>([]);
  const undone = shallowRef<readonly StepView[]>([]);
  const viewing = useViewing(document);
  const outbox = useOutbox();
  const session = useSession();
  const { outgoing, settling, settle } = createSettling(job, (id) => open(id));

  let engine: Remote<EngineApi> | undefined;
  let stopEngine: (() => void) | undefined;
  let stopListening: (() => void) | undefined;
  let opening = 0;
  const { trial, shown, pictured, coming, dropTrial, ...tries } = createTrials(() => engine, now, isBusy);
  const { coverCount, ...work } = createWork(() => engine, { now, before, trial });
  const states = createStates(() => engine, job);
  const check = createProgramCheck(
    () => engine,
    (id) => open(id),
  );

  const openFindings = computed<readonly Finding[]>(() => now.value?.view.findings ?? []);
  const keptFindings = computed(() => gatherKept(now.value?.view.kept ?? {}));
  const selectedFinding = computed(() => openFindings.value.find((f) => f.key === viewing.selected));
  watch(selectedFinding, (finding) => {
    if (finding?.places.every((place) => place.key !== viewing.selectedPlace) !== false) viewing.selectedPlace = undefined;
  });
  const isAudited = computed(() => now.value?.view.isAudited ?? false);
  const rowCount = computed(() => shown.value?.view.program.rowCount ?? 0);
  /** Rows before this one are sewn at `time`. */
  const upTo = computed(() =>
    viewing.time === undefined || shown.value === undefined ? rowCount.value : rowsDone(shown.value.view.done, viewing.time),
  );
  /** The same for what the cloth shows. */
  const picturedUpTo = computed(() => (viewing.time === undefined ? Infinity : upTo.value));

  /** Kept when the job that is being opened is open or cannot be: steps asked for meanwhile wait for it. */
  let ready: Promise<void> = Promise.resolve();

  function open(id: string): Promise<void> {
    ready = load(id);
    return ready;
  }

  async function load(id: string): Promise<void> {
    const ticket = ++opening;
    close();
    isOpening.value = true;
    // From now on, so that nothing is missed that happens while it is opened.
    stopListening = hearChanges(id, (change) => inTurn(() => (isOpening.value ? Promise.resolve() : following.follow(change))));
    const number = nextProgramNumber();
    try {
      const hear = (at: Progress): void => {
        if (ticket === opening) reading.value = at;
      };
      // The worker has its code loaded by the time that there is something to hand it.
      ({ engine, stop: stopEngine } = startEngine((error) => fallOver(id, error)));
      const asked = askForJob(engine, id, hear);
      // What an earlier page left unsent is sent first, and then it is asked anew.
      await outbox.takeUp();
      const isMoreSent = outbox.queues.has(id);
      await outbox.send(id);
      const { detail, opened } = await openJob(engine, isMoreSent ? { ...asked, last: loadJob(id, hear) } : asked, id, hear, number);
      if (ticket !== opening) return;
      job.value = detail;
      following.begin(detail);
      now.value = { number, view: opened.now };
      if (detail.base?.recognizer === PLAIN_RECOGNIZER) useNotices().warn('Not recognized', TOO_MUCH);
      [done.value, undone.value] = [opened.done, opened.undone];
      await audit();
      if (ticket === opening) void check.compareStored(detail);
      if (ticket === opening) await putUnsentOnTop(detail);
    } catch (error) {
      if (ticket !== opening) return;
      stopEngine?.();
      [engine, stopEngine] = [undefined, undefined];
      failure.value = { title: 'This job cannot be opened', text: error instanceof Error ? error.message : String(error) };
    } finally {
      if (now.value?.number !== number) void clothWorker().dropProgram(number);
      if (ticket === opening) isOpening.value = false;
      if (ticket === opening) reading.value = undefined;
    }
  }

  /** The cloth is shown already: what takes longer to work out comes after it. */
  async function audit(): Promise<void> {
    const light = now.value;
    const audited = await engine?.audit();
    if (audited === undefined || light === undefined || now.value !== light) return;
    const came = await showView(audited.before!);
    if (now.value !== light) return forget(came);
    before.value = came;
    // The drawing worker has its rows.
    now.value = { ...light, view: { ...audited.now, program: light.view.program } };
  }

  /** The worker died with all that it held: what was saved is opened again, and what was not is put on top of that. */
  function fallOver(id: string, error: Error): void {
    if (job.value?.id !== id) return;
    useNotices().complain(new Error(`The computation stopped (${error.message}) and was started again. Nothing that was done is lost.`));
    void open(id);
  }

  /** Goes to where a step had led, on whichever branch; null: to what the steps begin with. What was done since stays in the history. */
  async function goTo(step: string | null): Promise<void> {
    if ((done.value.findLast(({ isFixed }) => !isFixed)?.id ?? null) === step) return;
    await enter(() => ({ id: crypto.randomUUID(), kind: 'go', to: step }));
  }

  /** Steps that could not be sent yet are shown on top of what the server has, where they still go there. */
  async function putUnsentOnTop(detail: JobDetail): Promise<void> {
    const left = outbox.queues.get(detail.id);
    if (left === undefined || isHeld(left.state)) return;
    const changed = left.version === detail.version ? await extend(structuredClone([...left.entries])) : undefined;
    if (changed?.ok === true) await show(changed);
    else outbox.hold(detail.id, 'conflict', changed?.reason ?? '');
  }

  function close(): void {
    stopEngine?.();
    stopEngine = undefined;
    engine = undefined;
    stopListening?.();
    settling.value = undefined;
    dropTrial();
    [now.value, before.value].forEach(forget);
    job.value = undefined;
    now.value = undefined;
    before.value = undefined;
    done.value = [];
    undone.value = [];
    viewing.reset();
    failure.value = undefined;
  }

  async function perform(name: string, operation: Operation): Promise<boolean> {
    return enter(() => ({ id: crypto.randomUUID(), kind: 'do', name: name.slice(0, 200), operation: structuredClone(operation) }));
  }

  async function undo(): Promise<void> {
    await enter(() =>
      backOrForth(
        'undo',
        done.value.findLast((step) => !step.isFixed),
      ),
    );
  }

  async function redo(): Promise<void> {
    await enter(() => backOrForth('redo', undone.value.at(-1)));
  }

  let turn: Promise<unknown> = Promise.resolve();

  /** Steps are made one after another, however fast they are asked for. */
  function enter(thinkOf: () => JournalEntry | undefined): Promise<boolean> {
    return inTurn(() => make(thinkOf()));
  }

  function inTurn<T>(act: () => Promise<T>): Promise<T> {
    const mine = turn.then(() => ready).then(act);
    turn = mine.catch(() => undefined);
    return mine;
  }

  /** An entry that says which step it means; none where there is no such step. */
  function backOrForth(kind: 'undo' | 'redo', step: StepView | undefined): JournalEntry | undefined {
    return step === undefined ? undefined : { id: crypto.randomUUID(), kind, step: step.id };
  }

  async function make(entry: JournalEntry | undefined): Promise<boolean> {
    if (entry !== undefined && !session.mayEdit)
      throw new Error(`You are here as ${session.role}: designs are changed by digitizers and owners.`);
    if (entry === undefined || engine === undefined || job.value === undefined || isHeld(outgoing.value?.state)) return false;
    isBusy.value = true;
    try {
      const changed = await extend([entry]);
      if (!changed.ok) throw new Error(`This step does not fit: ${changed.reason}.`);
      check.note(entry.id);
      await show(changed);
      following.note(entry.id);
      void outbox.add(job.value, following.on(), entry);
      return true;
    } finally {
      isBusy.value = false;
    }
  }

  /** Steps from before the snapshot that the job was opened at are fetched when one of them is taken back. */
  async function extend(entries: readonly JournalEntry[]): Promise<Changed> {
    const changed = await engine!.extend(entries);
    if (changed.ok || !changed.isFar) return changed;
    const { base, detail } = await loadJob(job.value!.id, () => undefined, 'start');
    await engine!.reachBack(base, entriesOf(detail));
    return engine!.extend(entries);
  }

  /** Makes what is being tried: one step, one undo. */
  async function acceptTrial(): Promise<boolean> {
    const tried = trial.value;
    if (tried === undefined) return false;
    return perform(tried.trial.name, tried.trial.operation);
  }

  /** Leaves a finding as it is, at all of its places or at one, by that place's key. */
  async function keepFinding(finding: Finding, reason: string, place?: string): Promise<void> {
    const { rule, message } = finding;
    const isOne = place !== undefined && finding.places.length > 1;
    const title = isOne ? `one place of: ${message}` : message;
    const places = isOne ? [place] : finding.places.map(({ key }) => key);
    await perform(`keep: ${title}`, { id: 'keep-finding', places: [...new Set(places)], rule, title, reason });
  }

  async function reopenFinding(places: readonly string[], title: string): Promise<void> {
    await perform(`look again: ${title}`, { id: 'reopen-finding', places: [...places] });
  }

  async function setTarget(name: string, target: Target): Promise<void> {
    await perform(name, { id: 'set-target', target });
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
    if (viewing.time !== undefined) viewing.time = Math.min(viewing.time, opened.now.totals.seconds);
    old.forEach(forget);
  }

  outbox.onSaved((summary, entryId, isMerged) => {
    if (job.value?.id !== summary.id) return;
    job.value = { ...job.value, ...summary };
    // What it led to on top of steps of others is not known here yet.
    if (!isMerged) void check.compare(summary, entryId);
  });
  const following = createFollowing({
    ...{ job, outgoing, trial, engine: () => engine, open, show, inTurn },
    lose() {
      close();
      failure.value = { title: 'This job was deleted', text: 'It was deleted in another window.' };
    },
  });

  return {
    ...{ job, failure, isOpening, isBusy, reading, now, before, trial, done, undone, coverCount, outgoing, settling },
    ...{ isAudited, shown, pictured, coming, picturedUpTo, openFindings, keptFindings, selectedFinding, rowCount, upTo },
    ...{ open, close, perform, undo, redo, dropTrial, acceptTrial },
    ...tries,
    ...{ keepFinding, reopenFinding, setTarget, settle, goTo, otherMaker: following.otherMaker, isOthersWaiting: following.isWaiting },
    ...states,
    ...work,
  };
});
