<script setup lang="ts">
import type { StitchObject } from '@isola/core';
import { computed, ref, watch } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useAct } from '../../stores/useAct.ts';
import { useObjects } from '../../stores/objects.ts';
import ChoiceField from '../fields/ChoiceField.vue';
import FigurePairs from './FigurePairs.vue';
import { askOf, SHAPE_TOOLS, type ShapeTool, usualValues } from './shapeTools.ts';

/** Shapes of the selected object or of the whole design: outlined, cut, joined, backed, scaled; tried on the cloth before they are sewn so. */
const bench = useBench();
const objects = useObjects();
const { isBusy: isWorking, act } = useAct();

const toolId = ref<ShapeTool['id']>();
const values = ref<Record<string, string>>({});
const scope = ref<'one' | 'alike'>('one');
const problem = ref('');
const isTried = ref(false);

const selected = computed(() => objects.selected);
const tools = computed(() => SHAPE_TOOLS.filter(({ on }) => (selected.value === undefined ? on === 'design' : true)));
const tool = computed(() => tools.value.find(({ id }) => id === toolId.value) ?? tools.value[0]!);
const alike = computed(() => objects.alike.filter(({ role }) => role === 'cover'));
const meant = computed((): readonly StitchObject[] => {
  if (selected.value === undefined || tool.value.on === 'design') return [];
  return tool.value.on === 'objects' && scope.value === 'alike' ? alike.value : [selected.value];
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
</script>

<template>
  <section class="shapes" aria-label="Shapes">
    <ChoiceField
      label="What to do"
      :value="tool.id"
      :choices="tools.map(({ id, title }) => [id, title] as const)"
      @change="toolId = $event"
    />
    <p class="muted">{{ tool.what }}</p>
    <p v-if="meant.length > 0" class="on">
      <label v-if="tool.on === 'objects' && alike.length > 1"
        ><input v-model="scope" type="radio" value="one" /> only {{ selected!.name }}</label
      >
      <label v-if="tool.on === 'objects' && alike.length > 1"
        ><input v-model="scope" type="radio" value="alike" /> all {{ alike.length }} like it</label
      >
      <template v-else>Of {{ selected!.name }}.</template>
    </p>
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
          placeholder="choose an object"
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
        <span v-else class="number">
          <input
            inputmode="decimal"
            :aria-label="field.label"
            :value="values[field.key]"
            :placeholder="field.key === 'by' ? 'the pull' : ''"
            @input="set(field.key, ($event.target as HTMLInputElement).value)"
          />
          {{ field.as === 'length' ? 'mm' : '' }}
        </span>
      </label>
      <v-btn type="submit" variant="outlined" :disabled="isWorking">Try it</v-btn>
    </form>
    <p v-if="problem" class="short" role="alert">Nothing was changed: {{ problem }}.</p>
    <div v-if="isTried && bench.trial" class="foot">
      <ul v-if="bench.trial.trial.notes?.length" class="notes">
        <li v-for="note in bench.trial.trial.notes" :key="note">{{ note }}</li>
      </ul>
      <FigurePairs :before="bench.now!.view.figures" :after="bench.trial.shown.view.figures" />
      <div class="acts">
        <v-btn color="primary" :disabled="isWorking" @click="accept">Sew it so</v-btn>
        <v-btn variant="outlined" @click="bench.dropTrial()">Step back</v-btn>
      </div>
    </div>
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

.number input {
  width: 84px;
  padding: 4px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  color: var(--ink);
  font: inherit;
  text-align: right;
}

.color {
  display: flex;
  gap: 8px;
  align-items: center;
}

.color input {
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

.notes {
  display: grid;
  gap: 3px;
  padding-bottom: 8px;
  font-size: 12.5px;
}

.foot {
  position: sticky;
  bottom: -14px;
  background: var(--card);
  padding: 8px 0 14px;
  border-top: 1px solid var(--line);
}

.acts {
  display: flex;
  gap: 8px;
  padding-top: 8px;
}
</style>
