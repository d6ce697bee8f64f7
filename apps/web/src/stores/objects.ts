import { findAlike, type Finding, type Layer, type StitchKind, type StitchObject, type StitchRole } from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { defineDocumentStore } from './documentStore.ts';
import type { ShownPart } from '../workers/clothProtocol.ts';
import type { Proposal } from '../workers/protocol.ts';
import { clothWorker } from '../workers/startWorkers.ts';
import { useBench } from './bench.ts';
import { useViewing } from './viewing.ts';

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

/** The objects of the design on the bench: listed, one of them selected, told, joined, parted and moved. */
export const useObjects = defineDocumentStore('objects', (document) => {
  const bench = useBench(document);
  const viewing = useViewing(document);
  /** Objects last, so the id of the selected one does, too. */
  const selectedId = ref<string>();
  /** Others that are picked with the selected one. */
  const alsoIds = ref<readonly string[]>([]);
  const filter = ref<ObjectFilter>(NO_FILTER);
  const part = shallowRef<ShownPart>('all');
  /** Counts what was handed to the drawing worker, so that pictures are drawn anew. */
  const stamp = ref(0);

  const layers = shallowRef<readonly Layer[]>([]);

  const known = computed(() => bench.now?.view.objects);
  const objects = computed<readonly StitchObject[]>(() => known.value?.objects ?? []);
  const selectedIndex = computed(() => objects.value.findIndex((o) => o.id === selectedId.value));
  const selected = computed(() => objects.value[selectedIndex.value]);
  /** The selected object and those that are picked with it, in sewing order. */
  const picked = computed(() => {
    const ids = new Set([...alsoIds.value, selectedId.value]);
    return alsoIds.value.length === 0 ? [] : objects.value.filter(({ id }) => ids.has(id));
  });
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
  /** Ids of what is sewn in the block of the selected object, in order, and where in it that is. */
  const place = computed(() => {
    const block = known.value?.blocks.find((b) => selectedId.value !== undefined && b.objects.includes(selectedId.value));
    return block === undefined ? undefined : { block, at: block.objects.indexOf(selectedId.value!) };
  });

  watch(
    () => bench.job?.id,
    () => {
      selectedId.value = undefined;
      filter.value = NO_FILTER;
      part.value = 'all';
    },
  );
  /** One selection: the object that a finding, or the place of it that is meant, is in. */
  watch(
    () => [bench.selectedFinding, viewing.selectedPlace] as const,
    ([finding, place]) => {
      if (finding === undefined) return;
      const id = finding.places.find(({ key }) => key === place)?.object ?? finding.objects[0];
      const object = objects.value.find((o) => o.id === id);
      if (object !== undefined) select(object.parent === undefined ? object : { id: object.parent });
    },
  );
  watch(
    () => known.value,
    () => void handOver(),
    { immediate: true },
  );

  /** Objects go to the drawing worker at once, and what lies on what of them as soon as that is known. */
  async function handOver(): Promise<void> {
    const view = known.value;
    const number = bench.now?.number;
    if (view === undefined || number === undefined) return;
    const { ownerOfRow } = view;
    const roles = view.objects.map((o) => o.role);
    await clothWorker().setObjects(number, { ownerOfRow, levels: new Int32Array(roles.length), roles });
    stamp.value++;
    layers.value = [];
    const laid = await bench.layers();
    if (laid === undefined || bench.now?.number !== number) return;
    layers.value = laid.layers;
    await clothWorker().setObjects(number, { ownerOfRow, levels: laid.levels, roles });
    if (viewing.kind === 'layers') stamp.value++;
  }

  function select(object: Pick<StitchObject, 'id'> | undefined): void {
    selectedId.value = object?.id;
    alsoIds.value = [];
    if (object === undefined) filter.value = { ...filter.value, likeSelected: false };
    if (typeof part.value !== 'string') part.value = 'all';
  }

  /** Picks an object with those that are picked, or lets it go. */
  function pickToo(object: Pick<StitchObject, 'id'>): void {
    if (selectedId.value === undefined) return select(object);
    if (object.id === selectedId.value) return;
    alsoIds.value = alsoIds.value.includes(object.id) ? alsoIds.value.filter((id) => id !== object.id) : [...alsoIds.value, object.id];
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

  /** Names of the objects that a finding concerns, in sewing order. */
  function namesOf(finding: Finding): string[] {
    return finding.objects.flatMap((id) => objects.value.find((o) => o.id === id)?.name ?? []);
  }

  /** Makes what was proposed as a step; says why there is nothing to make. */
  async function make(name: string, proposal: Promise<Proposal | undefined>): Promise<string | undefined> {
    const proposed = await proposal;
    if (proposed === undefined) return 'No job is open.';
    if (!proposed.ok) return `${proposed.error}.`;
    return (await bench.perform(name, proposed.value)) ? undefined : 'The job cannot be changed now.';
  }

  /** The object that is sewn right after the selected one, in its thread. */
  const next = computed(() => {
    const id = place.value?.block.objects[place.value.at + 1];
    return objects.value.find((o) => o.id === id);
  });

  async function joinWithNext(): Promise<string | undefined> {
    const [object, other] = [selected.value, next.value];
    if (object === undefined || other === undefined) return 'There is no further object of this thread to join with.';
    return make(`join ${object.name} with ${other.name}`, bench.propose.join([object.id, other.id]));
  }

  /** Parts the selected object where the sewing shown ends. */
  async function splitHere(): Promise<string | undefined> {
    const object = selected.value;
    const row = bench.upTo;
    if (object === undefined || place.value === undefined || row <= object.first || row > object.last)
      return 'Step to the stitch where it is to be parted: the arrow keys go from stitch to stitch, the tape goes anywhere.';
    return make(`split ${object.name}`, bench.propose.split(object.id, row));
  }

  async function tell(as: StitchKind, role: StitchRole, object = selected.value): Promise<string | undefined> {
    if (object === undefined) return 'This object is not there any more.';
    return make(`tell that ${object.name} is ${role === 'cover' ? as : role}`, bench.propose.tell(object.id, as, role));
  }

  async function rename(name: string): Promise<void> {
    const object = selected.value;
    if (object === undefined || name.trim() === '' || name === object.name) return;
    await bench.perform(`call ${object.name} ${name.trim()}`, { id: 'rename-object', object: object.id, name: name.trim() });
  }

  /** Sews the selected object one place earlier or later among those of its thread. */
  async function move(by: 1 | -1): Promise<string | undefined> {
    const object = selected.value;
    const from = place.value;
    const to = from === undefined ? -1 : from.at + by;
    if (object === undefined || from === undefined || to < 0 || to >= from.block.objects.length)
      return `There is nothing of this thread ${by < 0 ? 'before' : 'after'} it.`;
    const before = from.block.objects[by < 0 ? to : to + 1] ?? null;
    const operation = { id: 'move-objects' as const, objects: [object.id], block: from.block.id, before };
    const isMade = await bench.perform(`sew ${object.name} ${by < 0 ? 'earlier' : 'later'}`, operation);
    return isMade ? undefined : 'The job cannot be changed now.';
  }

  return {
    ...{ known, layers, filter, part, stamp, selectedId, place, next },
    ...{ objects, selected, selectedIndex, alike, listed, picked },
    ...{ select, pickToo, selectRow, step, namesOf, joinWithNext, splitHere, tell, rename, move },
  };
});
