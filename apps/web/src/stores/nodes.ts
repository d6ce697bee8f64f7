import {
  addNode,
  countNodes,
  deleteNodes,
  moveNodes,
  movePull,
  type Nodes,
  shapeOfNodes,
  type ShapeNodes,
  smooth,
  specOf,
  straighten,
} from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { useBench } from './bench.ts';
import { defineDocumentStore } from './documentStore.ts';
import { useObjects } from './objects.ts';

/** A node of one of the lines. */
export interface NodeAt {
  readonly line: number;
  readonly index: number;
}

/** While nodes move their stitches are shown all the time and their figures so often, ms. */
const FIGURES_EVERY = 250;

/**
 * The nodes of the selected object while they are moved. What they draw is tried at once; while one trial is worked out only the newest of those asked
 * for waits. Nothing is kept until it is made, as one step.
 */
export const useNodes = defineDocumentStore('nodes', (document) => {
  const bench = useBench(document);
  const objects = useObjects(document);
  /** As they were when they were opened: the ghost beneath. */
  const opened = shallowRef<{ readonly object: string; readonly name: string } & ShapeNodes>();
  const lines = shallowRef<readonly Nodes[]>([]);
  const picked = shallowRef<readonly NodeAt[]>([]);
  const problem = ref('');
  const isWorking = ref(false);
  const isWanted = ref(false);
  const isOn = ref(false);

  const isChanged = computed(() => opened.value !== undefined && JSON.stringify(lines.value) !== JSON.stringify(opened.value.lines));
  const count = computed(() => lines.value.reduce((sum, line) => sum + countNodes(line), 0));

  /** Opens the selected object by its nodes. */
  async function open(): Promise<void> {
    isOn.value = true;
    const object = objects.selected;
    reset();
    if (object === undefined) return;
    const found = await bench.nodesOf(object.id);
    if (found === undefined || objects.selected?.id !== object.id || !isOn.value) return;
    if (!found.ok) {
      problem.value = found.error;
      return;
    }
    opened.value = { object: object.id, name: object.name, ...found.value };
    lines.value = found.value.lines;
  }

  function reset(): void {
    opened.value = undefined;
    lines.value = [];
    picked.value = [];
    problem.value = '';
  }

  function close(): void {
    if (isChanged.value) bench.dropTrial();
    isOn.value = false;
    reset();
  }

  const isPicked = ({ line, index }: NodeAt): boolean => picked.value.some((one) => one.line === line && one.index === index);

  /** Picks a node alone, or with those that are picked already. */
  function pick(node: NodeAt, isMore: boolean): void {
    if (!isMore) picked.value = isPicked(node) ? picked.value : [node];
    else
      picked.value = isPicked(node)
        ? picked.value.filter((one) => !(one.line === node.line && one.index === node.index))
        : [...picked.value, node];
  }

  function pickAll(): void {
    picked.value = lines.value.flatMap((line, k) => Array.from({ length: countNodes(line) }, (_, index) => ({ line: k, index })));
  }

  /** Changes each line by the nodes of it that are picked. */
  function onPicked(change: (nodes: Nodes, indices: number[]) => readonly number[] | undefined): readonly Nodes[] | undefined {
    const next = lines.value.map((line, k) => {
      const indices = picked.value.filter((one) => one.line === k).map(({ index }) => index);
      return indices.length === 0 ? line : change(line, indices);
    });
    return next.every((line) => line !== undefined) ? next : undefined;
  }

  function put(next: readonly Nodes[]): void {
    lines.value = next;
    problem.value = '';
    void preview();
  }

  const moveBy = (dx: number, dy: number): void => put(onPicked((line, indices) => moveNodes(line, indices, dx, dy))!);
  const makeStraight = (): void => put(onPicked((line, indices) => straighten(line, indices, opened.value!.isClosed))!);
  const makeSmooth = (): void => put(onPicked((line, indices) => smooth(line, indices, opened.value!.isClosed))!);

  function pullTo({ line, index }: NodeAt, part: 'in' | 'out', x: number, y: number): void {
    put(lines.value.with(line, movePull(lines.value[line]!, index, part, x, y)));
  }

  /** A node more on the curve that leaves a node, which is picked then. */
  function add(line: number, index: number, t = 0.5): void {
    const next = addNode(lines.value[line]!, index, t, opened.value!.isClosed);
    if (next.length === lines.value[line]!.length) return;
    picked.value = [{ line, index: index + 1 }];
    put(lines.value.with(line, next));
  }

  function remove(): void {
    const next = onPicked((line, indices) => deleteNodes(line, indices, opened.value!.isClosed));
    if (next === undefined) {
      problem.value = `too few nodes would be left: ${opened.value!.isClosed ? 'three' : 'two'} make a line`;
      return;
    }
    picked.value = [];
    put(next);
  }

  let working: Promise<void> = Promise.resolve();
  let measuredAt = 0;

  function preview(): Promise<void> {
    isWanted.value = true;
    if (!isWorking.value) working = tryWanted();
    return working;
  }

  async function tryWanted(): Promise<void> {
    isWorking.value = true;
    try {
      while (isWanted.value) {
        isWanted.value = false;
        const of = opened.value;
        const object = objects.objects.find(({ id }) => id === of?.object);
        const program = bench.now?.view.program;
        if (of === undefined || object === undefined || program === undefined || !isChanged.value) {
          bench.dropTrial();
          continue;
        }
        const shape = shapeOfNodes({ ...of, lines: lines.value });
        const spec = specOf(program, object);
        if (!shape.ok || !spec.ok) {
          problem.value = shape.ok ? (spec.ok ? '' : spec.error) : shape.error;
          continue;
        }
        let isMeasured = true;
        const isOvertaken = (): boolean => {
          isMeasured = !isWanted.value || performance.now() - measuredAt >= FIGURES_EVERY;
          return !isMeasured;
        };
        const edit = { object: of.object, spec: spec.value, shape: shape.value };
        problem.value = (await bench.trySpecs(`nodes: ${of.name}`, [edit], undefined, isOvertaken)) ?? '';
        if (isMeasured) measuredAt = performance.now();
      }
    } finally {
      isWorking.value = false;
    }
  }

  /** Keeps what is tried last, once it is worked out. */
  async function make(): Promise<boolean> {
    await working;
    if (problem.value !== '' || !isChanged.value || bench.trial === undefined) return false;
    return bench.acceptTrial();
  }

  function stepBack(): void {
    lines.value = opened.value?.lines ?? [];
    picked.value = [];
    problem.value = '';
    bench.dropTrial();
  }

  // What is put back by Escape is put back here, too; what was sewn, or another object, opens by its own nodes.
  watch(
    () => bench.trial,
    (trial) => {
      if (trial === undefined && isChanged.value && !isWorking.value && problem.value === '') lines.value = opened.value!.lines;
    },
  );
  watch([() => objects.selected?.id, () => bench.now?.number], () => {
    if (isOn.value) void open();
  });

  return {
    ...{ isOn, opened, lines, picked, problem, isWorking, isChanged, count },
    ...{ open, close, pick, pickAll, isPicked, moveBy, makeStraight, makeSmooth, pullTo, add, remove, make, stepBack },
  };
});
