import {
  adaptThread,
  AuditContext,
  auditDesign,
  type CoverMap,
  type Design,
  extendHistory,
  type History,
  inspectProgram,
  type JournalEntry,
  mapCover,
  predictGaps,
  predictSewn,
  type Program,
  proposeOpening,
  readStitchFile,
  repairFindings,
  replayJournal,
  runClock,
  type Recognition,
  type Step,
  type StitchObject,
  type Target,
  startDesign,
} from '@isola/core';
import { transfer } from 'comlink';
import type { ClothApi } from './clothProtocol.ts';
import type { Changed, DesignView, EngineApi, Opened, Prediction, SewnTrial, Side, SpecRefusal, StepView, Trial } from './protocol.ts';
import { measureSpecs, sewSpecs, type SewnSpecs } from './trySpecs.ts';

/** How many rows of a finding the screens get: as many as the tape can mark. */
const MOST_ROWS = 300;

/**
 * The engine of one job, as its worker offers it. What it gives away it no longer holds: arrays go over without being copied. Programs that the
 * drawing worker waits for go to `setProgram`.
 */
export function createEngine(setProgram: ClothApi['setProgram'] = () => Promise.resolve()): EngineApi {
  let history: History | undefined;
  let original: Program | undefined;
  let trial: Design | undefined;
  /** What was recognized, and in which design. */
  let known: { key: string; recognition: Recognition } | undefined;
  /** The objects as they are while specs are tried. */
  let tried: readonly StitchObject[] | undefined;
  /** What was sewn last, on which design and under which name, until it is measured. */
  let pending: { on: Design; name: string; sewn: SewnSpecs } | undefined;
  /** The target for which the original was last measured and sent. */
  let sentBefore: Target | undefined;

  function current(): History {
    if (history === undefined) throw new Error('no job is open');
    return history;
  }

  /** What is known of the present design; nothing while it is being recognized. */
  function recognized(): Recognition | undefined {
    return known?.key === objectsKey(current().design) ? known.recognition : undefined;
  }

  function describe(of: History): Opened {
    const isBeforeKnown = sentBefore === of.design.target;
    sentBefore = of.design.target;
    return {
      now: view(of.design),
      before: isBeforeKnown ? undefined : view({ ...of.design, program: original! }),
      done: of.done.map(describeStep),
      undone: of.undone.map(describeStep),
    };
  }

  return {
    open(bytes: Uint8Array, initialTarget: Target, entries: readonly JournalEntry[]): Promise<Opened> {
      const read = readStitchFile(bytes);
      if (!read.ok) return Promise.reject(new Error(read.error.message));
      original = read.value.program;
      const replayed = replayJournal(startDesign(original, initialTarget), entries);
      if (!replayed.ok) return Promise.reject(new Error(replayed.error));
      history = replayed.value;
      trial = undefined;
      sentBefore = undefined;
      const opened = describe(history);
      return Promise.resolve(transfer(opened, buffersOfAll(opened)));
    },

    extend(entries): Promise<Changed> {
      let next = current();
      for (const entry of entries) {
        const extended = extendHistory(next, entry);
        if (!extended.ok) return Promise.resolve({ ok: false, reason: extended.error });
        next = extended.value;
      }
      history = next;
      trial = undefined;
      const opened = describe(history);
      return Promise.resolve(transfer({ ok: true as const, ...opened }, buffersOfAll(opened)));
    },

    tryRepairs(keys): Promise<Trial | undefined> {
      const wanted = new Set(keys);
      const { design } = current();
      const repair = repairFindings(design, (finding) => wanted.has(finding.key));
      if (repair.operations.length === 0) return Promise.resolve(undefined);
      trial = repair.design;
      const after = view(trial);
      const operation =
        repair.operations.length === 1 ? repair.operations[0]! : { id: 'sequence' as const, operations: [...repair.operations] };
      const { applied, refused } = repair;
      const name =
        applied.length === 1 ? applied[0]!.change : `${applied.length} repairs: ${[...new Set(applied.map((a) => a.rule))].join(', ')}`;
      return Promise.resolve(transfer({ after, operation, applied, refused, name }, buffersOf(after)));
    },

    knowObjects(key, objects, ownerOfRow) {
      known = { key, recognition: { objects, ownerOfRow } };
      return Promise.resolve();
    },

    sewSpecs(name, edits, target, coming): Promise<SewnTrial | SpecRefusal | undefined> {
      const recognition = recognized();
      if (recognition === undefined) return Promise.resolve(undefined);
      const { design } = current();
      const sewn = sewSpecs(design, recognition, name, edits, target);
      if ('why' in sewn) return Promise.resolve(sewn);
      pending = { on: design, name, sewn };
      const { program } = sewn.design;
      if (coming !== undefined) void setProgram(coming.number, handOver(program), { ...sewn.change, from: coming.from });
      return Promise.resolve({ change: sewn.change });
    },

    measureSewn(): Promise<Trial | undefined> {
      const recognition = recognized();
      const { design } = current();
      if (recognition === undefined || pending?.on !== design) return Promise.resolve(undefined);
      const { name, sewn } = pending;
      trial = sewn.design;
      tried = sewn.objects;
      const { pairs, maxCover } = measureSpecs(design, recognition, sewn);
      const after = lightView(trial, maxCover);
      const { operation, applied, refused, firstRows } = sewn;
      return Promise.resolve(transfer({ after, operation, applied, refused, name, pairs, firstRows }, buffersOf(after)));
    },

    adaptThread(thread, way, scope) {
      const recognition = recognized();
      return Promise.resolve(recognition && adaptThread(current().design, recognition, thread, way, scope));
    },

    proposeOpening(budget) {
      const recognition = recognized();
      return Promise.resolve(recognition && proposeOpening(current().design, recognition, budget));
    },

    predict(side): Promise<Prediction | undefined> {
      const recognition = recognized();
      const { design } = current();
      const shown = side === 'trial' ? trial : design;
      const objects = side === 'trial' ? tried : recognition?.objects;
      if (shown === undefined || objects === undefined || side === 'before') return Promise.resolve(undefined);
      const { x, y } = predictSewn(shown.program, objects, shown.target);
      const gaps = predictGaps(objects, shown.target).slice(0, MOST_GAPS);
      return Promise.resolve(transfer({ x, y, gaps }, [x.buffer, y.buffer] as ArrayBuffer[]));
    },

    cover(side: Side): Promise<CoverMap | undefined> {
      const { design } = current();
      const program = side === 'now' ? design.program : side === 'before' ? original : trial?.program;
      if (program === undefined) return Promise.resolve(undefined);
      const map = mapCover(program, design.target.thread);
      return Promise.resolve(
        transfer(map, [map.cover.buffer, map.densestLayer.buffer, map.densestRow.buffer, map.layers.buffer, map.penetrations.buffer]),
      );
    },
  };
}

/** So many gaps are shown. */
const MOST_GAPS = 60;

const keys = new WeakMap<object, number>();
let keyCount = 0;

/** A number for a value that stands for as long as the value itself. */
function keyOf(value: object): number {
  const key = keys.get(value) ?? ++keyCount;
  keys.set(value, key);
  return key;
}

function objectsKey({ program, decisions, rebuilt }: Design): string {
  return `${keyOf(program)} ${keyOf(decisions)} ${keyOf(rebuilt)}`;
}

function view(design: Design): DesignView {
  const context = new AuditContext(design);
  const findings = auditDesign(design, context).map((f) => ({ ...f, rows: f.rows.slice(0, MOST_ROWS) }));
  return { ...lightView(design, context.cover.maxCover), findings };
}

/** A design without its findings, which take longest to find: for what is shown while a slider moves. */
function lightView(design: Design, maxCover: number): DesignView {
  const { program } = design;
  const clock = runClock(program, design.target.machine);
  return {
    program: copyOf(program),
    target: design.target,
    kept: design.kept,
    decisions: design.decisions,
    rebuilt: design.rebuilt,
    objectsKey: objectsKey(design),
    figures: inspectProgram(program, design.target),
    findings: [],
    events: clock.events,
    done: clock.done,
    totals: clock.totals,
    maxCover,
  };
}

/** A copy for another worker, which takes its arrays over. */
function handOver(program: Program): Program {
  const copy = copyOf(program);
  return transfer(copy, [copy.x.buffer, copy.y.buffer, copy.command.buffer] as ArrayBuffer[]);
}

function copyOf(program: Program): Program {
  return { ...program, x: program.x.slice(), y: program.y.slice(), command: program.command.slice() };
}

function buffersOf(of: DesignView): ArrayBuffer[] {
  return [of.program.x.buffer, of.program.y.buffer, of.program.command.buffer, of.done.buffer] as ArrayBuffer[];
}

function buffersOfAll({ now, before }: Opened): ArrayBuffer[] {
  return [...buffersOf(now), ...(before === undefined ? [] : buffersOf(before))];
}

function describeStep(step: Step): StepView {
  const { operation } = step;
  return {
    name: step.name,
    reason: operation.id === 'keep-finding' ? operation.reason : undefined,
    isTarget: operation.id === 'set-target',
  };
}
