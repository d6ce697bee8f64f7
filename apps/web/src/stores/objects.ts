import {
  findAlike,
  findConcerned,
  type Finding,
  type ObjectDecision,
  type StitchKind,
  type StitchObject,
  type StitchRole,
} from '@isola/core';
import { proxy } from 'comlink';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { ShownPart } from '../workers/clothProtocol.ts';
import type { RecognizedView } from '../workers/recognizeProtocol.ts';
import { clothWorker, startRecognizer } from '../workers/startWorkers.ts';
import { useBench } from './bench.ts';

/** What of the objects is listed. An empty list of kinds or no thread lists all of them. */
export interface ObjectFilter {
  readonly kinds: readonly StitchKind[];
  readonly color: string | undefined;
  /** Pitch in mm, of what has one. */
  readonly spacing: readonly [number, number] | undefined;
  readonly likeSelected: boolean;
  /** Underlay, travel and ties are listed too. */
  readonly isWhole: boolean;
}

const NO_FILTER: ObjectFilter = { kinds: [], color: undefined, spacing: undefined, likeSelected: false, isWhole: false };

/** The objects of the design on the bench: recognized beside the screens, named, listed, one of them selected. */
export const useObjects = defineStore('objects', () => {
  const bench = useBench();
  const state = ref<'none' | 'working' | 'ready' | 'cancelled' | 'failed'>('none');
  const progress = ref({ share: 0, doing: '' });
  const failure = ref('');
  const known = shallowRef<RecognizedView>();
  /** A row of the selected object: rows outlive what they are taken for. */
  const selectedRow = ref<number>();
  const filter = ref<ObjectFilter>(NO_FILTER);
  const part = shallowRef<ShownPart>('all');
  /** Counts what was handed to the drawing worker, so that pictures are drawn anew. */
  const stamp = ref(0);
  /** The design in which the objects were recognized. */
  const knownKey = ref('');
  /** A row to be selected by as soon as the objects are known again. */
  let awaited: number | undefined;
  let stop: (() => void) | undefined;

  const objects = computed<readonly StitchObject[]>(() => known.value?.objects ?? []);
  const selectedIndex = computed(() => (selectedRow.value === undefined ? -1 : (known.value?.ownerOfRow[selectedRow.value] ?? -1)));
  const selected = computed(() => objects.value[selectedIndex.value]);
  const alike = computed(() => (selected.value === undefined ? [] : findAlike(objects.value, selected.value)));
  const listed = computed(() => {
    const { kinds, color, spacing, likeSelected, isWhole } = filter.value;
    const from = likeSelected && selected.value !== undefined ? alike.value : objects.value;
    return from.filter(
      (o) =>
        (isWhole || likeSelected || o.role === 'cover' || o.role === 'placement' || o.role === 'tackdown') &&
        (kinds.length === 0 || kinds.includes(o.kind)) &&
        (color === undefined || o.color === color) &&
        (spacing === undefined || (o.spacing !== undefined && o.spacing >= spacing[0] && o.spacing <= spacing[1])),
    );
  });

  watch(
    () => bench.now?.view.objectsKey,
    (key) => (key === undefined ? clear() : void recognize()),
    { immediate: true },
  );
  // The same rows may get another number in the drawing worker.
  watch(
    () => bench.now?.number,
    () => void handOver(),
  );

  async function recognize(): Promise<void> {
    const shown = bench.now;
    stop?.();
    if (shown === undefined) return;
    const started = startRecognizer();
    stop = started.stop;
    state.value = 'working';
    progress.value = { share: 0, doing: 'reading' };
    try {
      const { program, decisions, rebuilt } = shown.view;
      const view = await started.recognizer.recognize(
        program,
        decisions,
        rebuilt,
        proxy((share, doing) => {
          progress.value = { share, doing };
        }),
      );
      if (stop !== started.stop) return;
      known.value = view;
      knownKey.value = shown.view.objectsKey;
      if (awaited !== undefined) selectedRow.value = awaited;
      awaited = undefined;
      await bench.knowObjects(shown.view.objectsKey, view.objects, view.ownerOfRow);
      state.value = 'ready';
      await handOver();
    } catch (error) {
      if (stop !== started.stop) return;
      failure.value = error instanceof Error ? error.message : String(error);
      state.value = 'failed';
    } finally {
      // Who was stopped is gone; who is done waits for the next time.
      if (stop === started.stop) {
        stop = undefined;
        started.rest();
      }
    }
  }

  function cancel(): void {
    stop?.();
    stop = undefined;
    state.value = 'cancelled';
  }

  function clear(): void {
    stop?.();
    stop = undefined;
    state.value = 'none';
    known.value = undefined;
    selectedRow.value = undefined;
    filter.value = NO_FILTER;
    part.value = 'all';
  }

  async function handOver(): Promise<void> {
    const view = known.value;
    if (view === undefined || bench.now === undefined) return;
    const { ownerOfRow, levels } = view;
    await clothWorker().setObjects(bench.now.number, { ownerOfRow, levels, roles: view.objects.map((o) => o.role) });
    stamp.value++;
  }

  function select(object: StitchObject | undefined): void {
    selectedRow.value = object?.spans[0]?.first;
    if (object === undefined) filter.value = { ...filter.value, likeSelected: false };
    if (typeof part.value !== 'string') part.value = 'all';
  }

  /** Selects what holds a row once the objects are known anew. */
  function awaitRow(row: number): void {
    awaited = row;
  }

  function selectRow(row: number): void {
    const owner = known.value?.ownerOfRow[row] ?? -1;
    if (owner >= 0) select(objects.value[owner]);
  }

  /** The next or last one of the list, from the selected one on. */
  function step(by: 1 | -1): void {
    const list = listed.value;
    if (list.length === 0) return;
    const at = selected.value === undefined ? -1 : list.indexOf(selected.value);
    select(list[at < 0 ? (by > 0 ? 0 : list.length - 1) : (at + by + list.length) % list.length]);
  }

  /** Names of the objects at a finding's rows, in sewing order; empty while they are not known. */
  function namesOf(finding: Finding): string[] {
    const view = known.value;
    if (view === undefined) return [];
    return findConcerned(finding.rows, view).map((k) => view.objects[k]!.name);
  }

  async function decide(name: string, decision: ObjectDecision): Promise<boolean> {
    const decisions = [...(bench.now?.view.decisions ?? []), decision];
    return bench.perform(name, { id: 'decide-objects', decisions });
  }

  async function joinWithNext(): Promise<boolean> {
    const object = selected.value;
    const next = objects.value.find((o) => object !== undefined && o.first > object.last && o.role !== 'tie' && o.thread === object.thread);
    if (object === undefined || next === undefined) return false;
    return decide(`join ${object.name} with ${next.name}`, { kind: 'join', first: object.first, last: next.last });
  }

  /** Parts the selected object where the sewing shown ends. */
  async function splitHere(): Promise<boolean> {
    const object = selected.value;
    const row = bench.upTo;
    if (object === undefined || row <= object.first || row > object.last) return false;
    return decide(`split ${object.name}`, { kind: 'split', row });
  }

  async function tell(as: StitchKind, role: StitchRole, object = selected.value): Promise<boolean> {
    if (object === undefined) return false;
    return decide(`tell that ${object.name} is ${role === 'cover' ? as : role}`, { kind: 'tell', row: object.spans[0]!.last, as, role });
  }

  return {
    ...{ state, progress, failure, known, knownKey, filter, part, stamp },
    ...{ objects, selected, selectedIndex, alike, listed },
    ...{ recognize, cancel, select, selectRow, awaitRow, step, namesOf, joinWithNext, splitHere, tell },
  };
});
