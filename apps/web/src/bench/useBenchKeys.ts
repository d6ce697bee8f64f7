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
  readonly plan: () => unknown;
  readonly free: () => unknown;
}

export interface ObjectKeys {
  readonly step: (by: 1 | -1) => unknown;
  readonly show: (part: 'all' | 'cover' | 'underlay' | 'travel') => unknown;
  readonly join: () => unknown;
  readonly split: () => unknown;
  readonly order: () => unknown;
  readonly clear: () => unknown;
}

export interface BenchKeyActions {
  readonly fit: () => void;
  readonly zoomBy: (factor: number) => void;
  /** The docket's own keys; absent on screens without it. */
  readonly docket?: () => DocketKeys | null;
  /** Makes what is being tried, on screens without a docket. */
  readonly accept?: () => unknown;
  /** The keys of objects; absent on screens without them. */
  readonly objects?: ObjectKeys;
}

/** Lets the bench be worked by keyboard while its screen is shown. Keys pressed in fields and in dialogs are theirs. */
export function useBenchKeys(actions: BenchKeyActions): void {
  const bench = useBench();
  const viewing = useViewing();

  function onKey(event: KeyboardEvent): void {
    const id = actionOf(event);
    // What is being tried is made or put back from wherever the focus is, fields included, as long as nothing lies over the bench.
    const isForTrial = bench.trial !== undefined && (id === 'accept' || id === 'back') && !isUnder(event);
    if (isElsewhere(event) && !isForTrial) return;
    const act = id === undefined ? undefined : handlers(event)[id];
    if (act === undefined) return;
    event.preventDefault();
    act();
  }

  /** What each action does on this screen; those that it does not have are left to others. */
  function handlers(event: KeyboardEvent): Partial<Record<ActionId, () => unknown>> {
    const { objects } = actions;
    const docket = actions.docket?.() ?? undefined;
    const ready = VIEWS.filter(({ needs }) => bench.now?.view.objects !== undefined || !needs.some((need) => need === 'objects'));
    const views = ready.map(({ id }): [ActionId, () => unknown] => [`view-${id}`, () => (viewing.kind = id)]);
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
        order: objects.order,
      }),
      ...(docket && {
        'finding-next': () => docket.step(1),
        'finding-before': () => docket.step(-1),
        try: docket.attempt,
        keep: docket.keep,
        plan: docket.plan,
        free: docket.free,
      }),
      ...(bench.trial !== undefined && !hasOwnEnter(event) ? { accept: docket?.accept ?? actions.accept } : {}),
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

  const typing = ['input', 'change', 'focusout'] as const;
  onMounted(() => {
    window.addEventListener('keydown', onKey);
    for (const type of typing) window.addEventListener(type, noteTyping);
  });
  onBeforeUnmount(() => {
    window.removeEventListener('keydown', onKey);
    for (const type of typing) window.removeEventListener(type, noteTyping);
  });
}

/** Whether a key belongs to a field or to what lies over the bench. A dialog that is fading out has given the keys back already. */
function isElsewhere(event: KeyboardEvent): boolean {
  return isUnder(event) || isIn(event, 'input:not([type=checkbox]), textarea, select');
}

function isUnder(event: KeyboardEvent): boolean {
  return isIn(event, '[role=listbox], .v-overlay--active');
}

/** Enter stays with what would do something else than accept (`data-own-enter`), and with a field that was typed in and not left yet. */
function hasOwnEnter(event: KeyboardEvent): boolean {
  const { target } = event;
  const isTyped = target instanceof HTMLInputElement && target.dataset['typed'] !== undefined;
  return isTyped || isIn(event, '[data-own-enter]');
}

const isIn = ({ target }: KeyboardEvent, what: string): boolean => target instanceof HTMLElement && target.closest(what) !== null;

/** Notes which fields hold something that was typed since they were last left or entered. */
function noteTyping({ target, type }: Event): void {
  if (!(target instanceof HTMLInputElement)) return;
  if (type === 'input') target.dataset['typed'] = '';
  else delete target.dataset['typed'];
}
