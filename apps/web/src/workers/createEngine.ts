import {
  AuditContext,
  auditDesign,
  baseFromJson,
  countLevels,
  type Design,
  extendHistory,
  type Figures,
  findLayers,
  type History,
  historyFrom,
  inspectProgram,
  isSameProgram,
  joinObjects,
  type JournalEntry,
  layLengths,
  nameStep,
  type NamedStep,
  objectsOf,
  orderOf,
  predictGaps,
  predictSewn,
  type Program,
  programBytes,
  readAnew,
  readStitchFile,
  replayJournal,
  reachesFar,
  splitObject,
  type Target,
  tellObject,
} from '@isola/core';
import { transfer } from 'comlink';
import type { ClothApi } from './clothProtocol.ts';
import type { Changed, DesignView, EngineApi, LayersView, Opened, Prediction, ShownCover, Side, StepView, Weighed } from './protocol.ts';
import { createCovers } from './createCovers.ts';
import { createCompareWork } from './createCompareWork.ts';
import { createSpecWork } from './createSpecWork.ts';
import { createShapeWork } from './createShapeWork.ts';
import { createOrderWork } from './createOrderWork.ts';
import { createRepairWork } from './createRepairWork.ts';
import { buffersOfAll, copyOf, handOver, lightView } from './designViews.ts';
import { readAhead } from './readAhead.ts';

/** How many rows of a finding the screens get: as many as the tape can mark. */
const MOST_ROWS = 300;

/**
 * The engine of one job, as its worker offers it. What it gives away it no longer holds: arrays go over without being copied. Programs that the
 * drawing worker waits for go to `setProgram`.
 */
export function createEngine(setProgram: ClothApi['setProgram'] = () => Promise.resolve()): EngineApi {
  let history: History | undefined;
  let original: Program | undefined;
  /** The version that the history was replayed from, and all entries since. */
  let from = 0;
  let since: JournalEntry[] = [];
  /** What the history began with, and how it was after each of the last entries, by how many there were. */
  let start: History | undefined;
  const lately = new Map<number, History>();
  let trial: Design | undefined;
  const coverOf = createCovers();
  /** Steps from before objects lasted. */
  let earlier: readonly StepView[] = [];
  /** The target for which the original was last measured and sent. */
  let sentBefore: Target | undefined;

  function current(): History {
    if (history === undefined) throw new Error('no job is open');
    return history;
  }

  /** The whole of a design. */
  function view(design: Design): DesignView {
    const { program, plan } = design;
    const lengths = layLengths(program);
    const cover = coverOf(program, design.target.thread);
    const findings = auditDesign(design, new AuditContext(design, { cover, lengths }));
    const { objects, ownerOfRow } = objectsOf(plan);
    return {
      ...lightView(program, design, cover.maxCover, lengths),
      isAudited: true,
      findings: findings.map((f) => ({ ...f, rows: f.rows.slice(0, MOST_ROWS) })),
      objects: { objects, ownerOfRow: ownerOfRow.slice(), blocks: plan.blocks },
    };
  }

  /** The file as it came in: measured with the design where that has the same rows still. */
  function viewBefore(design: Design, now: DesignView): DesignView {
    if (!isSameProgram(design.program, original!)) return lightView(original!, design, coverOf(original!, design.target.thread).maxCover);
    return { ...now, program: copyOf(original!), done: now.done.slice(), findings: [], objects: undefined };
  }

  function describe(of: History): Opened {
    const isBeforeKnown = sentBefore === of.design.target;
    sentBefore = of.design.target;
    const now = view(of.design);
    return {
      now,
      before: isBeforeKnown ? undefined : viewBefore(of.design, now),
      ...describeSteps(of),
    };
  }

  function describeSteps({ far, done, undone }: History): Pick<Opened, 'done' | 'undone'> {
    return { done: [...earlier, ...far.map(asView), ...done.map(nameStep).map(asView)], undone: undone.map(nameStep).map(asView) };
  }

  /** Takes a history up from where it starts, a version, with all entries since. @throws where one does not fit */
  function begin(first: History, version: number, entries: readonly JournalEntry[]): void {
    lately.clear();
    const replayed = replayJournal(first, entries, noteAfter(0));
    if (!replayed.ok) throw new Error(replayed.error);
    [start, history, from, since] = [first, replayed.value, version, [...entries]];
  }

  /** Puts entries on top of a history that others led to; nothing changes where one does not fit. */
  function goOn(on: History, before: readonly JournalEntry[], entries: readonly JournalEntry[]): Changed {
    const isFar = reachesFar(on, entries);
    const after: [number, History][] = [];
    const next = replayJournal(on, entries, (made) => after.push([before.length + after.length + 1, made]));
    if (!next.ok) return { ok: false, reason: next.error, isFar };
    after.forEach(([count, made]) => note(count, made));
    history = next.value;
    since = [...before, ...entries];
    trial = undefined;
    const opened = describe(history);
    return transfer({ ok: true as const, ...opened }, buffersOfAll(opened));
  }

  function note(count: number, made: History): void {
    lately.set(count, made);
    lately.delete(count - MOST_KEPT);
  }

  function noteAfter(count: number): (made: History) => void {
    return (made) => note(++count, made);
  }

  const comparing = createCompareWork({ history: current, original: () => original!, coverOf });

  return {
    read(bytes): Promise<void> {
      const read = readStitchFile(bytes);
      if (!read.ok) return Promise.reject(new Error(read.error.message));
      original = read.value.program;
      return Promise.resolve();
    },

    async open(base, entries, number): Promise<Opened | 'journal-needed'> {
      if (original === undefined) throw new Error('no file was read');
      const snapshot = baseFromJson(base, original);
      const first = historyFrom(snapshot);
      if (reachesFar(first, entries)) return 'journal-needed';
      begin(first, snapshot.version, entries);
      earlier = snapshot.steps.map(({ name, reason }) => ({ id: '', name, reason, isTarget: false, isFixed: true }));
      trial = undefined;
      sentBefore = undefined;
      const handed = setProgram(number, handOver(current().design.program));
      const now = lightView(current().design.program, current().design, 0);
      await handed;
      const opened = { now, before: undefined, ...describeSteps(current()) };
      return transfer(opened, buffersOfAll(opened));
    },

    audit(): Promise<Opened> {
      const opened = describe(current());
      const { design } = current();
      void readAhead(design, () => history?.design === design);
      return Promise.resolve(transfer(opened, buffersOfAll(opened)));
    },

    extend(entries): Promise<Changed> {
      return Promise.resolve(goOn(current(), since, entries));
    },

    goOnFrom(version, entries): Promise<Changed> {
      const kept = since.slice(0, version - from);
      let on = kept.length === 0 ? start! : lately.get(kept.length);
      if (on === undefined) {
        const replayed = replayJournal(start!, kept);
        if (!replayed.ok) throw new Error(replayed.error);
        on = replayed.value;
      }
      return Promise.resolve(goOn(on, kept, entries));
    },

    reachBack(base, entries): Promise<void> {
      const before = entries.slice(0, from - base.version);
      begin(historyFrom(baseFromJson(base.json, original!)), base.version, [...before, ...since]);
      return Promise.resolve();
    },

    async hash(): Promise<string> {
      const digest = await crypto.subtle.digest('SHA-256', programBytes(current().design.program));
      return Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('');
    },

    weigh(entries): Promise<Weighed> {
      let tried = current();
      const isFar = reachesFar(tried, entries);
      const problems = entries.map((entry) => {
        const next = extendHistory(tried, entry);
        if (next.ok) tried = next.value;
        return next.ok ? undefined : next.error;
      });
      const figuresOf = ({ design }: History): Figures => inspectProgram(design.program, design.target);
      return Promise.resolve({ before: figuresOf(current()), after: figuresOf(tried), problems, isFar });
    },

    join: (ids) => Promise.resolve(joinObjects(current().design, ids)),
    split: (id, row, newId) => Promise.resolve(splitObject(current().design, id, row, newId)),
    tell: (id, as, role) => Promise.resolve(tellObject(current().design, id, as, role)),
    readAnew: (ids) => {
      const { design } = current();
      return Promise.resolve(readAnew(design, ids ?? orderOf(design.plan), () => crypto.randomUUID()));
    },

    layers(): Promise<LayersView> {
      const { objects } = objectsOf(current().design.plan);
      const layers = findLayers(objects);
      return Promise.resolve({ layers, levels: countLevels(objects, layers) });
    },

    predict(side): Promise<Prediction | undefined> {
      const shown = side === 'one' || side === 'other' ? comparing.of(side)?.design : side === 'trial' ? trial : current().design;
      if (shown === undefined || side === 'before') return Promise.resolve(undefined);
      const { objects } = objectsOf(shown.plan);
      const { x, y } = predictSewn(shown.program, objects, shown.target);
      const gaps = predictGaps(objects, shown.target).slice(0, MOST_GAPS);
      return Promise.resolve(transfer({ x, y, gaps }, [x.buffer, y.buffer] as ArrayBuffer[]));
    },

    compareStates: comparing.compareStates,
    judgeStates: comparing.judgeStates,
    pictureState: comparing.pictureState,
    sampleState: comparing.sampleState,
    takeStart: comparing.takeStart,
    takeKept: comparing.takeKept,
    ...createSpecWork({ design: () => current().design, setProgram, coverOf, setTrial: (design) => (trial = design) }),
    ...createRepairWork({ design: () => current().design, view, setTrial: (design) => (trial = design) }),
    ...createShapeWork({ design: () => current().design, view, setTrial: (design) => (trial = design) }),
    ...createOrderWork({ design: () => current().design, view, setTrial: (design) => (trial = design) }),

    cover(side: Side): Promise<ShownCover | undefined> {
      const { design } = current();
      const program =
        { now: design.program, before: original, trial: trial?.program }[side as string] ?? comparing.of(side as 'one')?.program;
      if (program === undefined) return Promise.resolve(undefined);
      const { laid: _, ...map } = coverOf(program, design.target.thread);
      return Promise.resolve(map);
    },
  };
}

/** So many gaps are shown. */
const MOST_GAPS = 60;

const asView = ({ id, name, reason, isTarget }: NamedStep): StepView => ({ id, name, reason, isTarget, isFixed: false });

/** How it was after so many entries is kept: steps of others come soon after those that they lie before. */
const MOST_KEPT = 64;
