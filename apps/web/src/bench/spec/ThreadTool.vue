<script setup lang="ts">
import { type AdaptScope, type AdaptWay, adaptFactor, THREADS, threadThickness } from '@isola/core';
import { computed, onMounted, ref } from 'vue';
import ChoiceField from '../fields/ChoiceField.vue';
import ToolSection from './ToolSection.vue';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { useShop } from '../../stores/shop.ts';

/** Fits the design, a color of it or an object to another thread. */
defineProps<{ isWorking: boolean; isTried: boolean }>();
const emit = defineEmits<{ try: [attempt: () => Promise<string | undefined>] }>();
const bench = useBench();
const objects = useObjects();
const shop = useShop();

const target = computed(() => bench.now?.view.target);
/** What its spacings are for. */
const from = computed(() => target.value?.madeFor ?? target.value?.thread);
const threads = computed(() => shop.shop?.threads ?? THREADS);
const threadId = ref('');
/** As the shop does it, until somebody chooses. */
const way = ref<AdaptWay>(bench.now?.view.target.rules?.schools.thickerThread ?? 'thickness');
const chosen = ref('all');
const thread = computed(() => threads.value.find((t) => t.id === threadId.value));
const factor = computed(() =>
  from.value === undefined || thread.value === undefined ? 1 : adaptFactor(from.value, thread.value, way.value),
);
const held = ref(0);

interface Choice {
  readonly value: string;
  readonly words: string;
  readonly scope?: AdaptScope;
}

const isPitched = (o: { role: string; spacing?: number }): boolean => o.role === 'cover' && o.spacing !== undefined;
const choices = computed((): Choice[] => {
  const { selected } = objects;
  const alike = objects.alike.filter(isPitched);
  const colors = [...new Set(objects.objects.filter(isPitched).map((o) => o.color))];
  return [
    { value: 'all', words: 'whole design' },
    ...(selected === undefined || !isPitched(selected)
      ? []
      : [
          { value: 'object', words: `only ${selected.name}`, scope: { objects: [selected.id] } },
          ...(alike.length < 2
            ? []
            : [{ value: 'alike', words: `all ${alike.length} like it`, scope: { objects: alike.map((o) => o.id) } }]),
        ]),
    ...colors.map((color) => ({ value: color, words: `only ${color}`, scope: { color } })),
  ];
});
const choice = computed(() => choices.value.find((c) => c.value === chosen.value) ?? choices.value[0]!);

onMounted(() => {
  threadId.value = threads.value.find((t) => t.weight < (target.value?.thread.weight ?? 40))?.id ?? threads.value[0]?.id ?? '';
});

/** Why not, where it could not be tried. */
async function tryIt(): Promise<string | undefined> {
  const wanted = thread.value;
  if (wanted === undefined || target.value === undefined) return 'there is no thread to adapt to';
  const { scope, words } = choice.value;
  const found = await bench.adaptThread(wanted, way.value, scope);
  if (found === undefined) return 'the objects are not known yet';
  held.value = found.held;
  const { madeFor: _, ...rest } = target.value;
  // From then on it is made for the thread that it is sewn with.
  const whole = scope === undefined ? { ...rest, thread: wanted } : undefined;
  if (found.edits.length === 0 && whole === undefined) return `${words} is right for ${wanted.name} as it is`;
  return bench.trySpecs(`${words} for ${wanted.name}, ${way.value === 'thickness' ? 'by thickness' : 'a third off'}`, found.edits, whole);
}
</script>

<template>
  <ToolSection title="Another thread">
    <p class="muted">
      Spacings are for {{ from?.name }}, {{ from ? threadThickness(from).toFixed(2) : '' }} mm thick. A thicker one wants wider ones.
    </p>
    <div class="line">
      <ChoiceField
        label="Thread to adapt to"
        :value="threadId"
        :choices="threads.map((t) => [t.id, t.name] as const)"
        @change="threadId = $event"
      />
      <ChoiceField
        label="What to adapt"
        :value="choice.value"
        :choices="choices.map((c) => [c.value, c.words] as const)"
        @change="chosen = $event"
      />
    </div>
    <div class="line">
      <label><input v-model="way" type="radio" value="thickness" /> by thickness</label>
      <label><input v-model="way" type="radio" value="third-off" /> a third off</label>
      <b class="number">× {{ factor.toFixed(2) }}</b>
    </div>
    <p v-if="thread" class="needle">
      Needle {{ thread.needle }} for {{ thread.weight }}-weight thread. Stop the machine before changing it.
    </p>
    <v-btn variant="outlined" :disabled="isWorking || !thread" @click="emit('try', tryIt)">Try it</v-btn>
    <p v-if="isTried && held > 0" class="muted">{{ held }} held at what {{ target?.fabric.name }} bears.</p>
  </ToolSection>
</template>

<style scoped>
.needle {
  font-size: 12px;
}
</style>
