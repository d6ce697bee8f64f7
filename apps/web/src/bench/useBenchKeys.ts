import { splitIntoStretches } from '@isola/core';
import { onBeforeUnmount, onMounted } from 'vue';
import { useBench } from '../stores/bench.ts';
import { CLOTH_VIEWS } from '../workers/clothProtocol.ts';

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

  function onKey(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || isElsewhere(event)) return;
    const docket = actions.docket?.() ?? undefined;
    const act = findAction(event, docket);
    if (act === undefined) return;
    event.preventDefault();
    act();
  }

  function findAction(event: KeyboardEvent, docket: DocketKeys | undefined): (() => unknown) | undefined {
    const { objects } = actions;
    const view = CLOTH_VIEWS[Number(event.key) - 1];
    if (view !== undefined) return () => (bench.kind = view);
    switch (event.key) {
      case ' ':
        return () => (bench.isPlaying = !bench.isPlaying);
      case 'ArrowLeft':
        return () => (event.altKey && actions.objects ? actions.objects.step(-1) : stepStitches(-1, event));
      case 'ArrowRight':
        return () => (event.altKey && actions.objects ? actions.objects.step(1) : stepStitches(1, event));
      case '0':
        return actions.fit;
      case '+':
      case '=':
        return () => actions.zoomBy(1.25);
      case '-':
        return () => actions.zoomBy(0.8);
      case 'Escape':
        return stepBack;
      case 'a':
        return objects && (() => objects.show('all'));
      case 'c':
        return objects && (() => objects.show('cover'));
      case 'u':
        return objects && (() => objects.show('underlay'));
      case 'v':
        return objects && (() => objects.show('travel'));
      case 'j':
        return objects && (() => objects.join());
      case 's':
        return objects && (() => objects.split());
      case 'n':
        return docket && (() => docket.step(1));
      case 'p':
        return docket && (() => docket.step(-1));
      case 't':
        return docket && (() => docket.attempt());
      case 'k':
        return docket && (() => docket.keep());
      case 'Enter':
        return docket && bench.trial !== undefined && !isOnButton(event) ? () => docket.accept() : undefined;
      default:
        return undefined;
    }
  }

  function stepBack(): void {
    if (bench.isPlaying) bench.isPlaying = false;
    else if (bench.trial !== undefined) bench.dropTrial();
    else if (bench.time !== undefined) bench.time = undefined;
    else if (actions.objects !== undefined) actions.objects.clear();
    else bench.selected = undefined;
  }

  function stepStitches(by: 1 | -1, event: KeyboardEvent): void {
    const view = bench.shown?.view;
    if (view === undefined) return;
    bench.isPlaying = false;
    const { program, done } = view;
    let row = bench.upTo - 1;
    if (event.altKey) {
      const starts = splitIntoStretches(program).map((s) => s.first);
      const next = by > 0 ? starts.find((s) => s > row) : starts.findLast((s) => s < row);
      row = next ?? (by > 0 ? program.rowCount - 1 : 0);
    } else row += by * (event.shiftKey ? 10 : 1);
    row = Math.max(0, Math.min(program.rowCount - 1, row));
    bench.time = row === program.rowCount - 1 ? undefined : done[row]!;
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
