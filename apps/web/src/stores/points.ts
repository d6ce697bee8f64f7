import { nearestRow, PointsAsk, rowsInLasso, rowsUnderBrush, STITCH } from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { useBench } from './bench.ts';
import { defineDocumentStore } from './documentStore.ts';
import { useObjects } from './objects.ts';
import { useViewing } from './viewing.ts';

export const PICK_TOOLS = ['lasso', 'box', 'brush'] as const;
export type PickTool = (typeof PICK_TOOLS)[number];

const WORDS: Readonly<Record<PointsAsk['what'], string>> = {
  move: 'move',
  insert: 'set',
  delete: 'delete',
  jump: 'lift',
  stitch: 'bring down',
  cut: 'cut the thread after',
  smooth: 'smooth',
  straighten: 'straighten',
  respace: 'space anew',
  'take-out': 'take out',
};

/** Single penetrations: picked by click, lasso, box or brush, of one object or of all, and what is done to them. Each is a step of its own. */
export const usePoints = defineDocumentStore('points', (document) => {
  const bench = useBench(document);
  const objects = useObjects(document);
  const viewing = useViewing(document);
  const isOn = ref(false);
  const tool = ref<PickTool>('lasso');
  /** Only of the selected object, where there is one. */
  const isOfObject = ref(true);
  /** Half of the brush's width, mm. */
  const brush = ref(1.5);
  /** Rows of the program, ascending. */
  const picked = shallowRef<readonly number[]>([]);
  const problem = ref('');
  const notes = shallowRef<readonly string[]>([]);
  const onLong = ref<'split' | 'refuse'>('split');
  const isWorking = ref(false);

  const program = computed(() => bench.now?.view.program);
  /** Indices of the objects whose penetrations may be picked; none: all. */
  const among = computed(() => {
    const id = isOfObject.value ? objects.selected?.id : undefined;
    if (id === undefined) return undefined;
    return new Set(
      objects.objects.flatMap((object, k) => (object.id === id || object.parent === id || object.id.startsWith(`${id}.`) ? [k] : [])),
    );
  });

  function mayPick(row: number): boolean {
    return among.value === undefined || among.value.has(objects.known?.ownerOfRow[row] ?? -1);
  }

  function take(rows: readonly number[], isMore: boolean): void {
    problem.value = '';
    picked.value = isMore ? [...new Set([...picked.value, ...rows])].sort((a, b) => a - b) : rows;
  }

  /** The row of the penetration nearest to a place, of those that may be picked; −1 where there is none. */
  function rowAt(x: number, y: number, reach: number): number {
    return program.value === undefined ? -1 : nearestRow(program.value, x, y, reach, mayPick);
  }

  /** Picks the penetration nearest to a place, or lets it go where it was picked with others. */
  function pickAt(x: number, y: number, reach: number, isMore: boolean): number {
    const row = rowAt(x, y, reach);
    if (row < 0) {
      if (!isMore) picked.value = [];
    } else if (isMore && picked.value.includes(row)) picked.value = picked.value.filter((one) => one !== row);
    else if (isMore || !picked.value.includes(row)) take([row], isMore);
    return row;
  }

  function pickIn(line: Float64Array, isMore: boolean): void {
    if (program.value === undefined) return;
    take(
      tool.value === 'brush' ? rowsUnderBrush(program.value, line, brush.value, mayPick) : rowsInLasso(program.value, line, mayPick),
      isMore,
    );
  }

  /** Picks the penetration where the sewing shown ends. */
  function pickHere(): void {
    const row = bench.upTo - 1;
    if (program.value?.command[row] === STITCH) take([row], false);
    else problem.value = 'the needle does not come down there: step to a stitch';
  }

  /** Shows the sewing up to the next row that is no stitch, or the one before. */
  function stepToCommand(by: 1 | -1): void {
    const view = bench.now?.view;
    if (view === undefined) return;
    const { command, rowCount } = view.program;
    let row = bench.upTo - 1 + by;
    while (row > 0 && row < rowCount - 1 && command[row] === STITCH) row += by;
    viewing.time = row >= rowCount - 1 ? undefined : view.done[Math.max(0, row)]!;
  }

  function open(): void {
    isOn.value = true;
    reset();
  }

  function close(): void {
    isOn.value = false;
    reset();
  }

  function reset(): void {
    picked.value = [];
    problem.value = '';
    notes.value = [];
  }

  let isOwnStep = false;

  /** Does something to penetrations, as a step. Says why where it cannot be done. */
  async function edit(ask: Record<string, unknown> & { readonly what: PointsAsk['what'] }): Promise<void> {
    const read = PointsAsk.safeParse({ long: onLong.value, ...ask });
    if (!read.success) {
      problem.value = 'pick some penetrations first';
      return;
    }
    if (isWorking.value) return;
    isWorking.value = true;
    problem.value = '';
    notes.value = [];
    try {
      const made = await bench.editPoints(read.data);
      if (made?.ok !== true) {
        problem.value = made?.error ?? 'no job is open';
        return;
      }
      isOwnStep = true;
      if (!(await bench.perform(nameStep(read.data), made.value.operation))) problem.value = 'the job cannot be changed now';
      else {
        picked.value = made.value.rows;
        notes.value = made.value.notes;
      }
    } finally {
      isOwnStep = false;
      isWorking.value = false;
    }
  }

  function nameStep(ask: PointsAsk): string {
    const rows = 'rows' in ask ? ask.rows : [ask.row];
    const owner = objects.objects[objects.known?.ownerOfRow[rows[0]!] ?? -1];
    const of = owner === undefined ? '' : ` of ${objects.objects.find(({ id }) => id === owner.parent)?.name ?? owner.name}`;
    return `${WORDS[ask.what]} ${rows.length === 1 ? 'a stitch' : `${rows.length} stitches`}${of}`.slice(0, 190);
  }

  const onPicked = (what: PointsAsk['what'], more: Record<string, unknown> = {}): Promise<void> =>
    edit({ what, rows: [...picked.value], ...more });
  const onOne = (what: 'insert' | 'cut', more: Record<string, unknown> = {}): Promise<void> => {
    if (picked.value.length === 1) return edit({ what, row: picked.value[0], ...more });
    problem.value = 'pick one penetration for that';
    return Promise.resolve();
  };
  const moveBy = (dx: number, dy: number): Promise<void> => onPicked('move', { dx, dy });

  // Rows are others after a step of somebody else, or after one is taken back.
  watch(
    () => bench.now?.number,
    () => {
      if (!isOwnStep) reset();
    },
    // Told at once: by the time that others would hear, it is not known any more whose step it was.
    { flush: 'sync' },
  );
  watch(
    () => objects.selected?.id,
    () => {
      if (isOfObject.value) picked.value = [];
    },
  );

  return {
    ...{ isOn, tool, isOfObject, brush, picked, problem, notes, onLong, isWorking, program },
    ...{ open, close, mayPick, rowAt, pickAt, pickIn, pickHere, stepToCommand, onPicked, onOne, moveBy, edit },
  };
});
