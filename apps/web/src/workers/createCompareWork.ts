import {
  AuditContext,
  auditDesign,
  baseFromJson,
  changesSinceFile,
  compareObjects,
  type CoverMap,
  type Design,
  designOf,
  type History,
  type ObjectChange,
  objectsOf,
  predictGaps,
  proposePlaces,
  type Finding,
  type Program,
  readStitchFile,
  type StateName,
  stateOf,
  type Severity,
  type Target,
  type ThreadType,
} from '@isola/core';
import { transfer } from 'comlink';
import { buffersOf, lightView } from './designViews.ts';
import type { Comparison, Judged, JudgedSide, SampledState, StateNeeds, StatePicture } from './compareProtocol.ts';
import type { DesignView, EngineApi } from './protocol.ts';

interface Around {
  readonly history: () => History;
  readonly original: () => Program;
  readonly coverOf: (program: Program, thread: ThreadType) => CoverMap;
}

type CompareWork = Pick<EngineApi, 'compareStates' | 'pictureState' | 'sampleState' | 'takeStart' | 'takeKept' | 'judgeStates'>;

/** A state with the rows and the objects that are known of it: where steps began as rows, of the file and of what was kept then there is no plan. */
interface State {
  readonly design: Design | undefined;
  readonly program: Program;
}

/** Puts states of one job beside each other: what was kept, left and is now. `of` gives the designs that were compared last. */
export function createCompareWork({
  history,
  original,
  coverOf,
}: Around): CompareWork & { of: (side: 'one' | 'other') => State | undefined } {
  /** What the steps begin with, where the job was opened at a snapshot: taken up when it is asked for. */
  let start: Design | undefined;
  /** Rows of revisions that no step leads to. */
  const kept = new Map<StateName, Program>();
  let shown: { readonly one: State; readonly other: State } | undefined;

  function find(name: StateName): State | StateNeeds {
    if (name.startsWith('kept ')) {
      const program = kept.get(name);
      return program === undefined ? 'kept-needed' : { design: undefined, program };
    }
    if (name === 'file') {
      const file = { design: undefined, program: original() };
      const first = stateOf(history(), 'start') ?? start;
      if (first === undefined) return 'start-needed';
      return first.plan.source === file.program ? { design: first, program: file.program } : file;
    }
    const design = stateOf(history(), name) ?? (name === 'start' ? start : undefined);
    if (design === undefined) return name === 'start' ? 'start-needed' : 'journal-needed';
    return { design, program: design.program };
  }

  function viewOf({ design, program }: State, target: Target): DesignView {
    if (design === undefined) return lightView(program, { target, kept: {} }, 0);
    const { objects, ownerOfRow } = objectsOf(design.plan);
    return { ...lightView(program, design, 0), objects: { objects, ownerOfRow: ownerOfRow.slice(), blocks: design.plan.blocks } };
  }

  function judge({ design, program }: State, target: Target): JudgedSide {
    if (design === undefined) return { maxCover: coverOf(program, target.thread).maxCover, widestGap: undefined, findings: undefined };
    const cover = coverOf(program, target.thread);
    const findings = auditDesign(design, new AuditContext(design, { cover }));
    const [gap] = predictGaps(objectsOf(design.plan).objects, target);
    return { maxCover: cover.maxCover, widestGap: gap?.width ?? 0, findings: countBySeverity(findings) };
  }

  return {
    of: (side) => shown?.[side],

    takeStart(json): Promise<void> {
      start = baseFromJson(json, original()).design;
      return Promise.resolve();
    },

    takeKept(name, bytes): Promise<void> {
      const read = readStitchFile(bytes);
      if (!read.ok) throw new Error(read.error.message);
      kept.set(name, read.value.program);
      return Promise.resolve();
    },

    pictureState(name): Promise<StatePicture | StateNeeds> {
      const state = find(name);
      if (typeof state === 'string') return Promise.resolve(state);
      const { target } = state.design ?? history().design;
      const { program, figures } = lightView(state.program, { target, kept: {} }, 0);
      const picture = { program, target, extents: figures.extents, stitches: figures.stitches };
      return Promise.resolve(transfer(picture, [program.x.buffer, program.y.buffer, program.command.buffer] as ArrayBuffer[]));
    },

    sampleState(name): Promise<SampledState | StateNeeds> {
      const state = find(name);
      if (typeof state === 'string') return Promise.resolve(state);
      const target = state.design?.target ?? history().design.target;
      const view = viewOf(state, target);
      const places = proposePlaces(view.program, view.objects?.objects ?? [], target);
      return Promise.resolve(transfer({ view, places }, buffersOf(view)));
    },

    compareStates(one, other): Promise<Comparison | StateNeeds> {
      const states = [find(one), find(other)] as const;
      for (const state of states) if (typeof state === 'string') return Promise.resolve(state);
      const [a, b] = states as readonly [State, State];
      const { target } = history().design;
      shown = { one: alike(a, target), other: alike(b, target) };
      const compared = {
        one: viewOf(shown.one, target),
        other: viewOf(shown.other, target),
        changes: changesBetween([one, a], [other, b]),
      };
      return Promise.resolve(transfer(compared, [...buffersOf(compared.one), ...buffersOf(compared.other)]));
    },

    judgeStates(): Promise<Judged | undefined> {
      if (shown === undefined) return Promise.resolve(undefined);
      const { target } = history().design;
      return Promise.resolve({ one: judge(shown.one, target), other: judge(shown.other, target) });
    },
  };
}

function countBySeverity(findings: readonly Finding[]): Record<Severity, number> {
  const counts = { stop: 0, fix: 0, note: 0 };
  for (const { severity } of findings) counts[severity]++;
  return counts;
}

/** A state on another target, so that two are measured alike. */
function alike(state: State, target: Target): State {
  const { design } = state;
  return design === undefined || design.target === target ? state : { ...state, design: designOf(design.plan, target, design.kept) };
}

function changesBetween(one: readonly [StateName, State], other: readonly [StateName, State]): readonly ObjectChange[] | undefined {
  const plans = [one[1].design?.plan, other[1].design?.plan] as const;
  if (plans[0] !== undefined && plans[1] !== undefined) return compareObjects(plans[0], plans[1]);
  // Of the file alone the objects are not known, but a later state knows what it had of it.
  const later = one[0] === 'file' ? plans[1] : other[0] === 'file' ? plans[0] : undefined;
  return later && changesSinceFile(later);
}
