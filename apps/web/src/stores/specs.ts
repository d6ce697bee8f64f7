import {
  asKind,
  columnFor,
  END_STITCH,
  isOpenFill,
  type ObjectSpec,
  type SpecChange,
  type SpecEdit,
  type SpecKind,
  SHORTEST,
  shapeOf,
  specOf,
  type StitchObject,
  suggestSpec,
  type UnderlayNeeds,
} from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { defineDocumentStore } from './documentStore.ts';
import { useBench } from './bench.ts';
import { useObjects } from './objects.ts';

/** While a grip moves its stitches are shown all the time and their figures so often, ms. */
const FIGURES_EVERY = 250;

/**
 * The spec of the selected object while it is being changed. Changes are tried at once and shown on the cloth; while one trial is worked out only
 * the newest of those asked for waits. Nothing is kept until it is made, as one step.
 */
export const useSpecs = defineDocumentStore('specs', (document) => {
  const bench = useBench(document);
  const objects = useObjects(document);
  const draft = shallowRef<ObjectSpec>();
  /** Whether what is changed goes for all objects like the selected one. */
  const forAlike = ref(false);
  /** Why what was asked cannot be sewn; the last good picture stays. */
  const refusal = ref('');
  const suggested = shallowRef<readonly SpecChange[]>([]);
  const isWorking = ref(false);

  const object = computed(() => objects.selected);
  const read = computed(() => {
    const program = bench.now?.view.program;
    if (program === undefined || object.value === undefined) return undefined;
    return specOf(program, object.value);
  });
  /** The column that the object is sewn as while it is a satin. */
  const column = computed(() => {
    const program = bench.now?.view.program;
    if (program === undefined || object.value === undefined || spec.value?.kind !== 'satin') return undefined;
    const shape = shapeOf(program, object.value);
    const found = shape.ok ? columnFor(shape.value, spec.value) : shape;
    return found.ok ? found.value : undefined;
  });
  const current = computed(() => (read.value?.ok === true ? read.value.value : undefined));
  const whyNone = computed(() => (read.value?.ok === false ? read.value.error : ''));
  const spec = computed(() => draft.value ?? current.value);
  const isChanged = computed(() => draft.value !== undefined && JSON.stringify(draft.value) !== JSON.stringify(current.value));
  const scope = computed<readonly StitchObject[]>(() =>
    object.value === undefined ? [] : forAlike.value ? objects.alike.filter((o) => o.role === 'cover') : [object.value],
  );
  /** Stitches that were set one by one, and give way where their objects are sewn anew. */
  const singleCount = computed(() => scope.value.reduce((sum, { edited = 0 }) => sum + edited, 0));
  const pairs = computed(() => bench.trial?.trial.pairs);

  watch([() => object.value?.id, () => bench.now?.number], () => {
    draft.value = undefined;
    refusal.value = '';
    suggested.value = [];
  });

  // What is tried elsewhere, or dropped by Escape, takes the draft with it.
  watch(
    () => bench.trial,
    (trial) => {
      if (trial === undefined && !isWorking.value && refusal.value === '') draft.value = undefined;
    },
  );

  function change(values: Partial<ObjectSpec>): void {
    if (spec.value === undefined) return;
    const next = { ...spec.value, ...values };
    draft.value = 'spacing' in values && !('isOpen' in values) ? keepKind(spec.value, next) : next;
    suggested.value = [];
    void preview();
  }

  /** A fill stays closed or open when its spacing is changed: what it is meant to be is chosen, and no matter of a number. */
  function keepKind(from: ObjectSpec, to: ObjectSpec): ObjectSpec {
    const isOpen = isOpenFill(from);
    const natural = isOpenFill({ ...to, isOpen: undefined });
    return { ...to, isOpen: to.kind !== 'fill' || natural === isOpen ? undefined : isOpen };
  }

  function changeKind(kind: SpecKind): void {
    if (spec.value === undefined || bench.now === undefined) return;
    draft.value = asKind(spec.value, kind, bench.now.view.target, needsOf(object.value));
    suggested.value = [];
    void preview();
  }

  /** Sets all values as the cloth wants them; says what that changed and why. */
  function suggest(): void {
    if (spec.value === undefined || bench.now === undefined) return;
    const { spec: wanted, changes } = suggestSpec(spec.value, bench.now.view.target, needsOf(object.value));
    draft.value = wanted;
    suggested.value = changes;
    void preview();
  }

  /** What was changed, for the selected object and those that go with it: each keeps its own values besides. */
  function edits(): SpecEdit[] {
    const [from, to] = [current.value, draft.value];
    const program = bench.now?.view.program;
    if (from === undefined || to === undefined || program === undefined) return [];
    const names = (Object.keys(to) as (keyof ObjectSpec)[]).filter((name) => JSON.stringify(to[name]) !== JSON.stringify(from[name]));
    const changed = Object.fromEntries(names.map((name) => [name, to[name]])) as Partial<ObjectSpec>;
    return scope.value.flatMap((o): SpecEdit[] => {
      const own = specOf(program, o);
      return own.ok ? [{ object: o.id, spec: { ...own.value, ...changed } }] : [];
    });
  }

  let isWanted = false;
  let measuredAt = 0;

  let working: Promise<void> = Promise.resolve();

  function preview(): Promise<void> {
    isWanted = true;
    if (!isWorking.value) working = tryWanted();
    return working;
  }

  async function tryWanted(): Promise<void> {
    isWorking.value = true;
    try {
      while (isWanted) {
        isWanted = false;
        if (!isChanged.value) {
          refusal.value = '';
          bench.dropTrial();
          continue;
        }
        let isMeasured = true;
        const isOvertaken = (): boolean => {
          isMeasured = !isWanted || performance.now() - measuredAt >= FIGURES_EVERY;
          return !isMeasured;
        };
        refusal.value = (await bench.trySpecs(nameStep(), edits(), undefined, isOvertaken)) ?? '';
        if (isMeasured) measuredAt = performance.now();
        // Who stepped back while it was worked out does not want it any more.
        if (draft.value === undefined) isWanted = true;
      }
    } finally {
      isWorking.value = false;
    }
  }

  function nameStep(): string {
    const [from, to] = [current.value!, draft.value!];
    const what = [
      from.kind !== to.kind && `as a ${to.kind.replace('-', ' ')}`,
      from.spacing !== to.spacing && `spacing ${to.spacing.toFixed(2)}`,
      from.angle !== to.angle && `at ${to.angle.toFixed(0)}°`,
      JSON.stringify(from.angleLines) !== JSON.stringify(to.angleLines) && 'angle lines',
      from.stitchLength !== to.stitchLength && `stitch ${to.stitchLength.toFixed(1)}`,
      from.pull !== to.pull && sayCompensation(to.pull, object.value!.heldPull),
      from.shortest !== to.shortest && `shortest stitch ${(to.shortest ?? SHORTEST).toFixed(2)}`,
      from.endStitch !== to.endStitch && `stitches at row ends from ${(to.endStitch ?? END_STITCH).toFixed(2)}`,
      JSON.stringify(from.origin) !== JSON.stringify(to.origin) &&
        (to.origin === undefined ? 'rows on common lines' : 'rows where they were'),
      JSON.stringify(from.underlay) !== JSON.stringify(to.underlay) && 'underlay',
    ].filter((words) => words !== false);
    const who = forAlike.value ? `${scope.value.length} like ${object.value!.name}` : object.value!.name;
    return `${who}: ${what.length > 0 ? what.join(', ') : 'spec'}`;
  }

  /** Keeps what is tried last, once it is worked out, and stays with the object. */
  async function make(): Promise<boolean> {
    await working;
    if (refusal.value !== '' || !isChanged.value) return false;
    const trial = bench.trial?.trial;
    if (trial === undefined) return false;
    return bench.acceptTrial();
  }

  function stepBack(): void {
    draft.value = undefined;
    refusal.value = '';
    suggested.value = [];
    bench.dropTrial();
  }

  /** Says how much compensation the selected object, and those that go with it, came with (mm on each side); none: not known after all. */
  async function tellCompensation(pull: number | null): Promise<void> {
    const list = scope.value;
    const who = forAlike.value ? `${list.length} like ${object.value!.name}` : object.value!.name;
    const what = pull === null ? 'compensation not known after all' : `came with ${pull.toFixed(2)} mm of compensation`;
    await bench.perform(`${who}: ${what}`, {
      id: 'sequence',
      operations: list.map((o) => ({ id: 'tell-compensation' as const, object: o.id, pull })),
    });
  }

  /** Sews the object, and those that go with it, from their specs again: what was changed stitch by stitch since gives way. */
  async function sewAgain(): Promise<boolean> {
    const list = scope.value.filter(({ made, edited = 0 }) => made !== undefined && edited > 0);
    const why = await bench.trySpecs(
      `from its spec again: ${list.map((o) => o.name).join(', ')}`,
      list.map((o) => ({ object: o.id, spec: o.made!.spec })),
    );
    if (why !== undefined) {
      refusal.value = why;
      return false;
    }
    return bench.acceptTrial();
  }

  /** Gives the object, and those that go with it, the stitches back that the file had. */
  async function reset(): Promise<boolean> {
    const list = scope.value.filter((o) => isChangedFromFile(o));
    const why = await bench.trySpecs(
      `own stitches again: ${list.map((o) => o.name).join(', ')}`,
      list.map((o) => ({ object: o.id, spec: null })),
    );
    if (why !== undefined) {
      refusal.value = why;
      return false;
    }
    return bench.acceptTrial();
  }

  return {
    ...{ draft, forAlike, refusal, suggested, isWorking, object, current, whyNone, spec, column, isChanged, scope, pairs, singleCount },
    ...{ change, changeKind, suggest, make, stepBack, sewAgain, reset, tellCompensation },
  };
});

/** Whether the stitches that the file had can be given back. */
export function isChangedFromFile({ hasOwn }: StitchObject): boolean {
  return hasOwn === true;
}

/** Compensation in the name of a step: all of it where that is known, else what is added. */
function sayCompensation(pull: number, held: number | undefined): string {
  return held === undefined ? `${pull.toFixed(2)} of compensation added` : `compensation ${(held + pull).toFixed(2)}`;
}

function needsOf(object: StitchObject | undefined): UnderlayNeeds {
  return {
    ...(object?.width === undefined ? {} : { width: object.width.mean }),
    ...(object?.heldPull === undefined ? {} : { heldPull: object.heldPull }),
  };
}
