import { type DrawnForm, flattenNodes, NODE, readShapeAsk, type SpecKind } from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { useBench } from './bench.ts';
import { defineDocumentStore } from './documentStore.ts';
import { useObjects } from './objects.ts';

/** Where in the order a drawn object is sewn: right after or before the selected one, before everything, or last. */
export const DRAWN_PLACES = ['after', 'before', 'first', 'last'] as const;
export type DrawnPlace = (typeof DRAWN_PLACES)[number];

/** What the cloth takes clicks for: a new object, or a cut through the selected one. Nothing is sewn until the trial of it is made. */
export const useDrawPad = defineDocumentStore('draw pad', (document) => {
  const bench = useBench(document);
  const objects = useObjects(document);
  const tool = ref<'draw' | 'cut'>();
  const form = ref<DrawnForm>('closed');
  /** Nodes of the line that is being drawn (geometry/nodes.ts of the core), and at each how wide a column is there, mm. */
  const nodes = ref<number[]>([]);
  const widths = ref<number[]>([]);
  /** Lines that are finished: of a closed shape its outline and holes. */
  const lines = shallowRef<readonly number[][]>([]);
  const isDrawing = ref(false);
  const width = ref(3);
  const values = ref<{ kind?: SpecKind; color?: string; name?: string; place: DrawnPlace; passes: number }>({ place: 'after', passes: 1 });
  const problem = ref('');

  const isOn = computed(() => tool.value !== undefined);
  /** How many nodes the line takes at least. */
  const least = computed(() =>
    tool.value === 'cut' || form.value === 'line' || form.value === 'middle' ? 2 : form.value === 'closed' ? 3 : 4,
  );
  const canFinish = computed(() => nodes.value.length / NODE >= least.value);

  function start(what: 'draw' | 'cut', as = form.value): void {
    bench.dropTrial();
    clear();
    tool.value = what;
    form.value = as;
    isDrawing.value = true;
  }

  function clear(): void {
    nodes.value = [];
    widths.value = [];
    lines.value = [];
    problem.value = '';
    isDrawing.value = false;
  }

  function stop(): void {
    if (tool.value !== undefined && bench.trial !== undefined) bench.dropTrial();
    clear();
    tool.value = undefined;
  }

  /** Sets a node; one on the last is none. */
  function set(x: number, y: number): void {
    if (!isDrawing.value) return;
    const [lastX, lastY] = [nodes.value.at(-NODE), nodes.value.at(1 - NODE)];
    if (lastX === x && lastY === y) return;
    nodes.value = [...nodes.value, x, y, x, y, x, y];
    widths.value = [...widths.value, width.value];
  }

  /** Pulls the line at the last node toward a place, and as far on the other side: it goes through it smoothly. */
  function pull(x: number, y: number): void {
    const at = nodes.value.length - NODE;
    if (at < 0 || tool.value === 'cut') return;
    const [nx, ny] = [nodes.value[at]!, nodes.value[at + 1]!];
    nodes.value = nodes.value.toSpliced(at + 2, 4, 2 * nx - x, 2 * ny - y, x, y);
  }

  /** Takes the last node back. */
  function takeBack(): void {
    nodes.value = nodes.value.slice(0, -NODE);
    widths.value = widths.value.slice(0, -1);
  }

  /** Ends the line and tries what it draws or cuts. */
  async function finish(): Promise<void> {
    if (!isDrawing.value || !canFinish.value) return;
    isDrawing.value = false;
    lines.value = [...lines.value, nodes.value];
    nodes.value = [];
    await attempt();
  }

  /** Draws a hole into a closed shape. */
  function addHole(): void {
    bench.dropTrial();
    isDrawing.value = true;
  }

  /** Tries what is drawn, with the values as they are now. */
  async function attempt(): Promise<void> {
    const mine = tool.value;
    problem.value = '';
    const read = mine === 'cut' ? cutAsk() : drawAsk();
    if (!read.ok) problem.value = read.error;
    else
      problem.value =
        (await bench.tryShape(mine === 'cut' ? `cut: ${objects.selected?.name ?? ''}` : `draw: ${drawnName()}`, read.value)) ?? '';
  }

  const drawnName = (): string => values.value.name?.trim() || WORDS[form.value];

  function cutAsk() {
    return readShapeAsk('cut', { object: objects.selected?.id ?? '', along: [...flattenNodes(lines.value.at(-1) ?? [], false)] });
  }

  function drawAsk() {
    const { kind, color, name, place, passes } = values.value;
    const after = place === 'first' ? null : place === 'after' ? (objects.selected?.id ?? undefined) : undefined;
    return readShapeAsk('draw', {
      form: form.value,
      lines: lines.value.map((line) => [...line]),
      ...(form.value === 'middle' ? { widths: [...widths.value] } : {}),
      ...(form.value === 'line' ? { width: width.value, passes } : {}),
      ...(kind === undefined ? {} : { kind }),
      ...(color === undefined ? {} : { color }),
      ...(name?.trim() ? { name: name.trim() } : {}),
      ...(after === undefined ? {} : { after }),
      ...(place === 'before' && objects.selected !== undefined ? { before: objects.selected.id } : {}),
    });
  }

  // What was sewn so is an object now: the next one can be drawn.
  watch(
    () => bench.now?.number,
    () => {
      if (tool.value === undefined) return;
      clear();
      if (tool.value === 'draw') isDrawing.value = true;
      else tool.value = undefined;
    },
  );
  watch(
    () => bench.job?.id,
    () => stop(),
  );

  return {
    ...{ tool, form, nodes, widths, lines, isDrawing, width, values, problem, isOn, canFinish, least },
    ...{ start, stop, set, pull, takeBack, finish, addHole, attempt },
  };
});

const WORDS: Readonly<Record<DrawnForm, string>> = { line: 'a line', closed: 'a shape', sides: 'a column', middle: 'a column' };
