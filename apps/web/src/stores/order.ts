import {
  brokenBy,
  type Connector,
  generateRun,
  keepBlock,
  mergeBlocks,
  ORDER_PARTS,
  type OrderAsk,
  type OrderPart,
  recolorBlock,
  type SeenLayer,
  type SeenLayers,
  sewBefore,
  type SimpleOperation,
  splitBlockBefore,
  type StitchObject,
} from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { defineDocumentStore } from './documentStore.ts';
import type { OrderReport, Proposal } from '../workers/protocol.ts';
import { useBench } from './bench.ts';
import { useNotices } from './notices.ts';
import { useObjects } from './objects.ts';

/** A path that is drawn takes such steps, mm. Common practice: 2 to 2.5 in the open. */
const OPEN_STITCH = 2.5;

/** What a proposal is asked for: all of the design, what is sewn with the selected object's thread, or that object with those like it. */
export type OrderScope = 'design' | 'thread' | 'selected';

const NOTHING: SeenLayers = { ids: [], layers: [] };

/** The sew order on the bench: proposed, moved by hand, with the ways between objects. */
export const useOrder = defineDocumentStore('order', (document) => {
  const bench = useBench(document);
  const objects = useObjects(document);
  const notices = useNotices();
  const connectors = shallowRef<readonly Connector[]>([]);
  const seen = shallowRef<SeenLayers>(NOTHING);
  /** What the operator is told before objects, by their ids. */
  const stops = shallowRef<ReadonlyMap<string, string>>(new Map());
  const scope = ref<OrderScope>('design');
  const parts = ref<readonly OrderPart[]>(ORDER_PARTS);
  /** Objects that the next proposal leaves where they are. */
  const held = ref<ReadonlySet<string>>(new Set());
  /** What was proposed last; none while nothing is tried. */
  const report = shallowRef<OrderReport>();
  const isWorking = ref(false);
  /** The way to the selected object is being drawn on the cloth. */
  const isDrawing = ref(false);

  const order = computed(() => objects.known?.blocks.flatMap((block) => block.objects) ?? []);
  const plan = computed(() => ({ blocks: objects.known?.blocks ?? [] }));
  const nameOf = (id: string): string => objects.objects.find((o) => o.id === id)?.name ?? id;
  /** How the needle gets to the selected object; none where it is the first of its thread. */
  const wayHere = computed(() => connectors.value.find((c) => c.to === objects.selected?.id));
  const isProposed = computed(() => report.value !== undefined && bench.trial?.trial.order !== undefined);

  watch(
    () => [bench.now?.number, bench.now?.view.objects !== undefined] as const,
    async ([number, isKnown]) => {
      if (number === undefined || !isKnown) return;
      const view = await bench.orderView();
      if (view === undefined || bench.now?.number !== number) return;
      connectors.value = view.connectors;
      seen.value = view.seen;
      stops.value = new Map(view.stops.map(({ object, note }) => [object, note]));
    },
    { immediate: true },
  );
  watch(
    () => bench.trial,
    (trial) => {
      if (trial?.trial.order === undefined && !isWorking.value) report.value = undefined;
    },
  );
  watch(
    () => objects.selected?.id,
    () => (isDrawing.value = false),
  );
  watch(
    () => bench.job?.id,
    () => {
      held.value = new Set();
      scope.value = 'design';
    },
  );

  function scopeIds(): ReadonlySet<string> | undefined {
    const { selected, place, alike } = objects;
    if (scope.value === 'design' || selected === undefined) return undefined;
    if (scope.value === 'selected') return new Set(alike.map((o) => o.id));
    return new Set(
      objects.known!.blocks.filter(({ thread }) => thread?.color === place?.block.thread?.color).flatMap((block) => block.objects),
    );
  }

  /** Tries the best order that is found for what is asked; says why where there is none. */
  async function propose(): Promise<string | undefined> {
    if (parts.value.length === 0) return 'say what may change: threads, objects or ways';
    isWorking.value = true;
    try {
      const only = scopeIds();
      const ask: OrderAsk = { parts: [...parts.value], hold: new Set(held.value), ...(only === undefined ? {} : { only }) };
      report.value = await bench.tryOrder(ask);
      if (report.value === undefined || bench.trial !== undefined) return undefined;
      report.value = undefined;
      return held.value.size > 0
        ? 'with what is left where it is, nothing better was found'
        : 'nothing better was found: what is cut can neither be carried over nor hidden';
    } finally {
      isWorking.value = false;
    }
  }

  const pieces = computed(() => objects.objects.filter((o) => o.role === 'placement').length);

  /** Tries applique sewn by step: all placements, then all tack-downs, then all covers. */
  async function byStep(): Promise<string | undefined> {
    const found = await bench.regroupApplique();
    if (found?.ok !== true) return found?.error ?? 'no job is open';
    return bench.tryOperation('applique by step', found.value);
  }

  /** Leaves an object where it is, or lets it go, and proposes anew. */
  async function hold(id: string, isHeld: boolean): Promise<string | undefined> {
    const next = new Set(held.value);
    if (isHeld) next.add(id);
    else next.delete(id);
    held.value = next;
    return propose();
  }

  /** What sewing objects before another one would put on top of what; to be asked while they are dragged. */
  function look(ids: readonly string[], before: string | null): readonly SeenLayer[] {
    const moved = new Set(ids);
    const left = order.value.filter((id) => !moved.has(id));
    const at = before === null ? left.length : left.indexOf(before);
    const next = at < 0 ? order.value : [...left.slice(0, at), ...ids, ...left.slice(at)];
    const now = new Set(brokenBy(seen.value, order.value).map(({ over, under }) => `${over} ${under}`));
    return brokenBy(seen.value, next).filter(({ over, under }) => !now.has(`${over} ${under}`));
  }

  /** The same in words: where it would be sewn, and what would come out on top of what there. */
  function sayDrop(id: string, before: string | null): string {
    const where = before === null ? 'last of all' : `before ${nameOf(before)}`;
    const broken = sayBroken(look([id], before));
    return broken === '' ? where : `${where}: ${broken}`;
  }

  function sayBroken(broken: readonly SeenLayer[]): string {
    const [first] = broken;
    if (first === undefined) return '';
    const [over, under] = [nameOf(seen.value.ids[first.over]!), nameOf(seen.value.ids[first.under]!)];
    const more = broken.length > 1 ? `, and ${broken.length - 1} more` : '';
    return `${under} would come out on top of ${over} on ${first.area.toFixed(first.area < 10 ? 1 : 0)} mm²${more}`;
  }

  async function perform(name: string, proposal: Proposal): Promise<string | undefined> {
    if (!proposal.ok) return proposal.error;
    return (await bench.perform(name, proposal.value)) ? undefined : 'the job cannot be changed now';
  }

  const one = (operation: SimpleOperation): Proposal => ({ ok: true, value: operation });

  const moveBefore = (ids: readonly string[], before: string | null): Promise<string | undefined> =>
    perform(
      `sew ${ids.length === 1 ? nameOf(ids[0]!) : `${ids.length} objects`} ${before === null ? 'last' : `before ${nameOf(before)}`}`,
      sewBefore(plan.value, ids, before),
    );
  /** An object that was dragged is let go: where it stays where it was, nothing is done; says what kept it from being moved. */
  async function drop(id: string, before: string | null): Promise<void> {
    const at = order.value.indexOf(id);
    if (at < 0 || (order.value[at + 1] ?? null) === before) return;
    try {
      const why = await moveBefore([id], before);
      if (why !== undefined) notices.say('Nothing was moved', `${why}.`);
    } catch (error) {
      notices.complain(error);
    }
  }
  const recolor = (block: string, color: string, name: string): Promise<string | undefined> =>
    perform(`thread ${name === '' ? color : name}`, recolorBlock(plan.value, block, { color, name }));
  const splitBefore = (object: StitchObject): Promise<string | undefined> =>
    perform(`part the block before ${object.name}`, splitBlockBefore(plan.value, object.id));
  const keep = (block: string, isKept: boolean): Promise<string | undefined> =>
    perform(isKept ? 'keep the block apart' : 'let the block be merged', keepBlock(plan.value, block, isKept));
  const merge = (block: string, into: string): Promise<string | undefined> =>
    perform('merge two blocks', mergeBlocks(plan.value, block, into));

  /** Wants a cut before an object, forbids it, or leaves it to who proposes an order. */
  async function wish(object: StitchObject, what: 'cut' | 'uncut' | null): Promise<string | undefined> {
    if (what !== 'uncut')
      return perform(
        `${what === null ? 'as it comes' : 'cut'} before ${object.name}`,
        one({ id: 'set-link', object: object.id, wish: what, ...(what === 'cut' ? { way: 'trim' as const } : {}) }),
      );
    return walk(object, true);
  }

  /** Lays the best path to an object from the one before. */
  async function walk(object: StitchObject, isCutForbidden = false): Promise<string | undefined> {
    const way = await bench.proposeWay(object.id, isCutForbidden);
    if (way?.ok !== true) return way?.error ?? 'no job is open';
    const name = isCutForbidden ? `no cut before ${object.name}` : `path to ${object.name}`;
    return (await bench.perform(name, way.value.operation)) ? undefined : 'the job cannot be changed now';
  }

  /** Sews along corners (mm, both ends included) to the selected object, in the open: who draws it wants it so. */
  async function layPath(corners: readonly { readonly x: number; readonly y: number }[]): Promise<string | undefined> {
    const object = objects.selected;
    isDrawing.value = false;
    if (object === undefined) return 'no object is selected';
    const path = generateRun(Float64Array.from(corners.flatMap(({ x, y }) => [x, y])), { stitchLength: OPEN_STITCH });
    const points = [...path.subarray(2, -2)].map((v) => Math.round(v * 1000) / 1000);
    return perform(`a path drawn to ${object.name}`, one({ id: 'set-link', object: object.id, way: 'open', path: points, wish: 'uncut' }));
  }

  const stopBefore = (object: StitchObject, note: string | null): Promise<string | undefined> =>
    perform(
      note === null ? `no stop before ${object.name}` : `stop before ${object.name}`,
      one({ id: 'set-stop', object: object.id, note }),
    );
  const lock = (object: StitchObject, isLocked: boolean): Promise<string | undefined> =>
    perform(`${isLocked ? 'lock' : 'unlock'} the place of ${object.name}`, one({ id: 'lock-object', object: object.id, isLocked }));

  return {
    ...{ connectors, seen, stops, scope, parts, held, report, isWorking, isDrawing, isProposed, order, wayHere },
    ...{
      pieces,
      byStep,
      propose,
      hold,
      look,
      sayBroken,
      sayDrop,
      drop,
      moveBefore,
      recolor,
      splitBefore,
      keep,
      merge,
      wish,
      walk,
      layPath,
      stopBefore,
      lock,
      nameOf,
    },
  };
});
