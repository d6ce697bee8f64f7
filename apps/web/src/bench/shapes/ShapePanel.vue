<script setup lang="ts">
import type { StitchObject } from '@isola/core';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useDrawPad } from '../../stores/drawPad.ts';
import { useNodes } from '../../stores/nodes.ts';
import { useAct } from '../../stores/useAct.ts';
import { useObjects } from '../../stores/objects.ts';
import { usePoints } from '../../stores/points.ts';
import ChoiceField from '../fields/ChoiceField.vue';
import PointTool from '../points/PointTool.vue';
import ToggleRow from '../fields/ToggleRow.vue';
import ClothPieces from './ClothPieces.vue';
import DrawTool from './DrawTool.vue';
import NodeTool from './NodeTool.vue';
import ShapeTrial from './ShapeTrial.vue';
import { askOf, SHAPE_TOOLS, type ShapeTool, usualValues } from './shapeTools.ts';

/** Shapes drawn by hand, and what is done to those that are there: outlined, cut, joined, backed, scaled; tried on the cloth before they are sewn so. */
const bench = useBench();
const objects = useObjects();
const pad = useDrawPad();
const nodes = useNodes();
const points = usePoints();
const { isBusy: isWorking, act } = useAct();

const toolId = ref<ShapeTool['id']>();
const values = ref<Record<string, string>>({});
const scope = ref<'one' | 'alike'>('one');
const problem = ref('');
const isTried = ref(false);

const selected = computed(() => objects.selected);
const tools = computed(() => SHAPE_TOOLS.filter(({ on }) => selected.value !== undefined || on === 'design' || on === 'any'));
const tool = computed(() => tools.value.find(({ id }) => id === toolId.value) ?? tools.value[0]!);
const alike = computed(() => objects.alike.filter(({ role }) => role === 'cover'));
const takesSeveral = computed(() => tool.value.on === 'objects' || tool.value.on === 'any');
const meant = computed((): readonly StitchObject[] => {
  if (selected.value === undefined || tool.value.on === 'design') return [];
  if (takesSeveral.value && objects.picked.length > 1) return objects.picked;
  return takesSeveral.value && scope.value === 'alike' ? alike.value : [selected.value];
});
const others = computed(() =>
  objects.objects.filter(({ id, role }) => role === 'cover' && id !== selected.value?.id).map(({ id, name }) => [id, name] as const),
);

watch(
  tool,
  (next) => {
    values.value = usualValues(next);
    problem.value = '';
  },
  { immediate: true },
);
watch(
  () => bench.trial,
  (trial) => {
    if (trial === undefined) isTried.value = false;
  },
);
onBeforeUnmount(() => byHand(undefined));

const HANDS = [
  { id: 'draw', title: 'Draw', what: 'a line, a shape or a column that no file had' },
  { id: 'nodes', title: 'Nodes', what: 'the edge or path of the selected object by its nodes' },
  { id: 'cut', title: 'Cut', what: 'the selected object in two along a drawn line' },
  { id: 'points', title: 'Points', what: 'single penetrations: moved, set, deleted' },
] as const;
const hands = computed(() => HANDS.map((tool) => ({ ...tool, isOff: tool.id === 'cut' && selected.value === undefined })));
const hand = computed(() => (nodes.isOn ? 'nodes' : points.isOn ? 'points' : pad.tool));

/** Takes up a tool that works on the cloth by hand; the same again, or none, lays it down. */
function byHand(id: (typeof HANDS)[number]['id'] | undefined): void {
  const next = id === hand.value ? undefined : id;
  if (next !== 'nodes' && nodes.isOn) nodes.close();
  if (next !== 'points' && points.isOn) points.close();
  if (next !== pad.tool && pad.isOn) pad.stop();
  if (next === 'nodes') void act(() => nodes.open());
  else if (next === 'points') points.open();
  else if (next !== undefined) pad.start(next);
}

const set = (key: string, value: string): void => void (values.value = { ...values.value, [key]: value });

/** “outline: left wing”, as the step is called. */
const name = computed(() => {
  const [one] = meant.value;
  const what = meant.value.length > 1 ? `${meant.value.length} objects` : one?.name;
  return `${tool.value.title.toLowerCase()}${what === undefined ? '' : `: ${what}`}`.slice(0, 190);
});

function work(what: () => Promise<unknown>): Promise<void> {
  problem.value = '';
  return act(what);
}

const tryIt = (): Promise<void> =>
  work(async () => {
    const ask = askOf(tool.value, values.value, meant.value);
    const why = typeof ask === 'string' ? ask : await bench.tryShape(name.value, ask);
    problem.value = why ?? '';
    isTried.value = why === undefined && bench.trial !== undefined;
  });

const accept = (): Promise<void> =>
  work(async () => {
    await bench.acceptTrial();
  });

const UNITS: Readonly<Record<string, string>> = { length: 'mm', degrees: '°' };
</script>

<template>
  <section class="shapes" aria-label="Shapes">
    <ToggleRow label="By hand" :value="hand" :choices="hands" @choose="byHand" />
    <NodeTool v-if="hand === 'nodes'" />
    <PointTool v-else-if="hand === 'points'" />
    <DrawTool v-else-if="hand !== undefined" />
    <template v-else>
      <ChoiceField
        label="What to do"
        :value="tool.id"
        :choices="tools.map(({ id, title }) => [id, title] as const)"
        @change="toolId = $event"
      />
      <p class="muted">{{ tool.what }}</p>
      <p v-if="meant.length > 0" class="on">
        <template v-if="takesSeveral && objects.picked.length > 1">Of the {{ objects.picked.length }} picked.</template>
        <template v-else-if="takesSeveral && alike.length > 1">
          <label><input v-model="scope" type="radio" value="one" /> only {{ selected!.name }}</label>
          <label><input v-model="scope" type="radio" value="alike" /> all {{ alike.length }} like it</label>
        </template>
        <template v-else>Of {{ selected!.name }}.</template>
      </p>
      <p v-else-if="tool.on === 'any'" class="muted">Of the whole design; pick objects for a part of it.</p>
      <form @submit.prevent="tryIt">
        <label v-for="field in tool.fields" :key="field.key" class="field">
          <span>{{ field.label }}</span>
          <ChoiceField
            v-if="field.as === 'choice'"
            :label="field.label"
            :value="values[field.key]"
            :choices="field.choices ?? []"
            @change="set(field.key, $event)"
          />
          <ChoiceField
            v-else-if="field.as === 'object'"
            :label="field.label"
            :value="values[field.key]"
            :choices="others"
            :placeholder="meant.length > 1 ? 'those picked' : 'choose an object'"
            @change="set(field.key, $event)"
          />
          <span v-else-if="field.as === 'color'" class="color">
            <input
              type="color"
              :aria-label="field.label"
              :value="values[field.key] || '#202020'"
              @input="set(field.key, ($event.target as HTMLInputElement).value)"
            />
            <em v-if="!values[field.key]" class="muted">{{ tool.on === 'design' ? 'as usual' : 'its own' }}</em>
          </span>
          <input
            v-else-if="field.as === 'words'"
            class="words"
            :aria-label="field.label"
            maxlength="200"
            placeholder="as usual"
            :value="values[field.key]"
            @input="set(field.key, ($event.target as HTMLInputElement).value)"
          />
          <span v-else class="number">
            <input
              inputmode="decimal"
              :aria-label="field.label"
              :value="values[field.key]"
              :placeholder="field.key === 'by' ? 'the pull' : ''"
              @input="set(field.key, ($event.target as HTMLInputElement).value)"
            />
            {{ UNITS[field.as] ?? '' }}
          </span>
        </label>
        <v-btn type="submit" variant="outlined" :disabled="isWorking">Try it</v-btn>
      </form>
      <p v-if="problem" class="short" role="alert">Nothing was changed: {{ problem }}.</p>
      <ShapeTrial v-if="isTried" :is-busy="isWorking" @make="accept" @drop="bench.dropTrial()" />
      <ClothPieces v-if="!isTried" />
    </template>
  </section>
</template>

<style scoped>
.shapes,
form {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 9px;
  padding-top: 8px;
}

.on {
  display: grid;
  gap: 3px;
}

.field {
  display: grid;
  grid-template-columns: 108px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
}

.field > span:first-child {
  color: var(--ink-2);
}

.shapes :deep(.number input),
.shapes :deep(.typed input),
.shapes :deep(.text),
.words {
  padding: 4px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  color: var(--ink);
  font: inherit;
}

.shapes :deep(.number input) {
  width: 84px;
  text-align: right;
}

.words,
.shapes :deep(.text) {
  width: 100%;
}

.color {
  display: flex;
  gap: 8px;
  align-items: center;
}

.shapes :deep(.color input) {
  width: 46px;
  height: 28px;
  padding: 2px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}

.short {
  color: var(--fix);
}
</style>
