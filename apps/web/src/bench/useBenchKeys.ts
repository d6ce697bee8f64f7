import { type Program, splitIntoStretches } from '@isola/core';
import { onBeforeUnmount, onMounted } from 'vue';
import { useBench } from '../stores/bench.ts';
import { type ActionId, actionOf } from './actions.ts';
import { VIEWS } from './cloth/views/views.ts';
import { useViewing } from '../stores/viewing.ts';

export interface DocketKeys {
  readonly step: (by: 1 | -1) => void;
  readonly attempt: () => unknown;
  readonly accept: () => unknown;
  readonly keep: () => unknown;
}

export interface ObjectKeys {
  readonly step: (by: 1 | -1) => unknown;
  readonly show: (part: 'all' | 'cover' | 'underlay' | 'travel') => unknown;
  readonly join: () => unknown;
  readonly split: () => unknown;
  readonly clear: () => unknown;
}

export interface BenchKeyActions {
  readonly fit: () => void;
  readonly zoomBy: (factor: number) => void;
  /** The docket's own keys; absent on screens without it. */
  readonly docket?: () => DocketKeys | null;
  /** The keys of objects; absent on screens without them. */
  readonly objects?: ObjectKeys;
}

/** Lets the bench be worked by keyboard while its screen is shown. Keys pressed in fields and in dialogs are theirs. */
export function useBenchKeys(actions: BenchKeyActions): void {
  const bench = useBench();
  const viewing = useViewing();

  function onKey(event: KeyboardEvent): void {
    if (isElsewhere(event)) return;
    const id = actionOf(event);
    const act = id === undefined ? undefined : handlers(event)[id];
    if (act === undefined) return;
    event.preventDefault();
    act();
  }

  /** What each action does on this screen; those that it does not have are left to others. */
  function handlers(event: KeyboardEvent): Partial<Record<ActionId, () => unknown>> {
    const { objects } = actions;
    const docket = actions.docket?.() ?? undefined;
    const views = VIEWS.map(({ id }): [ActionId, () => unknown] => [`view-${id}`, () => (viewing.kind = id)]);
    return {
      ...(Object.fromEntries(views) as Partial<Record<ActionId, () => unknown>>),
      play: () => (viewing.isPlaying = !viewing.isPlaying),
      'stitch-back': () => stepStitches(-1),
      'stitch-on': () => stepStitches(1),
      'ten-back': () => stepStitches(-10),
      'ten-on': () => stepStitches(10),
      'part-back': () => (objects ? objects.step(-1) : stepStretch(-1)),
      'part-on': () => (objects ? objects.step(1) : stepStretch(1)),
      fit: actions.fit,
      nearer: () => actions.zoomBy(1.25),
      farther: () => actions.zoomBy(0.8),
      back: stepBack,
      ...(objects && {
        'show-all': () => objects.show('all'),
        'show-cover': () => objects.show('cover'),
        'show-underlay': () => objects.show('underlay'),
        'show-travel': () => objects.show('travel'),
        join: objects.join,
        split: objects.split,
      }),
      ...(docket && {
        'finding-next': () => docket.step(1),
        'finding-before': () => docket.step(-1),
        try: docket.attempt,
        keep: docket.keep,
        ...(bench.trial !== undefined && !isOnButton(event) ? { accept: docket.accept } : {}),
      }),
    };
  }

  function stepBack(): void {
    if (viewing.isPlaying) viewing.isPlaying = false;
    else if (bench.trial !== undefined) bench.dropTrial();
    else if (viewing.time !== undefined) viewing.time = undefined;
    else if (actions.objects !== undefined) actions.objects.clear();
    else viewing.selected = undefined;
  }

  function stepStitches(by: number): void {
    const view = bench.shown?.view;
    if (view !== undefined) goTo(view, bench.upTo - 1 + by);
  }

  /** To where the needle goes in anew, before or after. */
  function stepStretch(by: 1 | -1): void {
    const view = bench.shown?.view;
    if (view === undefined) return;
    const row = bench.upTo - 1;
    const starts = splitIntoStretches(view.program).map((s) => s.first);
    const next = by > 0 ? starts.find((s) => s > row) : starts.findLast((s) => s < row);
    goTo(view, next ?? (by > 0 ? view.program.rowCount - 1 : 0));
  }

  function goTo({ program, done }: { program: Program; done: ArrayLike<number> }, wanted: number): void {
    viewing.isPlaying = false;
    const row = Math.max(0, Math.min(program.rowCount - 1, wanted));
    viewing.time = row === program.rowCount - 1 ? undefined : done[row]!;
  }

  onMounted(() => window.addEventListener('keydown', onKey));
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey));
}

/** Whether a key belongs to a field or to what lies over the bench. A dialog that is fading out has given the keys back already. */
function isElsewhere(event: KeyboardEvent): boolean {
  return (
    event.target instanceof HTMLElement &&
    event.target.closest('input:not([type=checkbox]), textarea, select, [role=listbox], .v-overlay--active') !== null
  );
}

function isOnButton(event: KeyboardEvent): boolean {
  return event.target instanceof HTMLElement && event.target.closest('button, a') !== null;
}
