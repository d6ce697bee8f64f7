<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { useOrder } from '../../stores/order.ts';
import ChoiceField from '../fields/ChoiceField.vue';
import ToolSection from '../spec/ToolSection.vue';
import { HOWS } from './sayWays.ts';

/** Where the selected object stands in the order, how the needle gets there, and with which thread: changed by hand. */
const emit = defineEmits<{ attempt: [act: () => Promise<string | undefined>]; look: [object: string] }>();
const bench = useBench();
const objects = useObjects();
const order = useOrder();

const object = computed(() => objects.selected!);
const place = computed(() => objects.place);
const at = computed(() => order.order.indexOf(object.value.id));
const way = computed(() => order.wayHere);

const WISHES = [
  ['none', 'as it comes'],
  ['cut', 'always cut'],
  ['uncut', 'never cut'],
] as const;

const stop = computed(() => order.stops.get(object.value.id));
const note = ref('');
watch(
  () => [object.value.id, stop.value],
  () => (note.value = stop.value ?? ''),
  { immediate: true },
);

/** Other blocks of the same thread, by where they stand. */
const others = computed(() => {
  const { blocks } = objects.known!;
  const own = place.value?.block;
  return blocks.flatMap((block, k) =>
    block !== own && block.thread?.color === own?.thread?.color && block.thread?.name === own?.thread?.name
      ? [[block.id, `with block ${k + 1} of ${blocks.length}`] as const]
      : [],
  );
});
const blockAt = computed(() => objects.known!.blocks.findIndex((b) => b === place.value?.block));

/** All objects that it could be sewn before. */
const befores = computed(() => [
  ...order.order.filter((id) => id !== object.value.id).map((id, k) => [id, `${k + 1} ${order.nameOf(id)}`] as const),
  ['', 'last of all'] as const,
]);
const wanted = ref<string>();
const broken = computed(() =>
  wanted.value === undefined ? '' : order.sayBroken(order.look([object.value.id], wanted.value === '' ? null : wanted.value)),
);
watch(object, () => (wanted.value = undefined));

function move(): void {
  const before = wanted.value;
  if (before === undefined) return;
  emit('attempt', async () => {
    const why = await order.moveBefore([object.value.id], before === '' ? null : before);
    if (why === undefined) wanted.value = undefined;
    return why;
  });
}

function recolor(event: Event): void {
  const { value } = event.target as HTMLInputElement;
  const block = place.value?.block;
  if (block === undefined || value === block.thread?.color) return;
  emit('attempt', () => order.recolor(block.id, value, block.thread?.name ?? ''));
}

function rename(event: Event): void {
  const value = (event.target as HTMLInputElement).value.trim();
  const block = place.value?.block;
  if (block?.thread == null || value === block.thread.name) return;
  emit('attempt', () => order.recolor(block.id, block.thread!.color, value));
}
</script>

<template>
  <template v-if="place">
    <ToolSection :title="`Sewn as ${at + 1} of ${order.order.length}`">
      <div class="line">
        <ChoiceField
          class="wide"
          label="Sew it before"
          :value="wanted"
          placeholder="before…"
          :choices="befores"
          @change="wanted = $event"
        />
        <v-btn variant="outlined" :disabled="wanted === undefined || bench.isBusy" @click="move">Move it</v-btn>
      </div>
      <p v-if="broken" class="short" role="status">{{ broken }}.</p>
      <label class="part">
        <input
          type="checkbox"
          :checked="object.isLocked === true"
          @change="emit('attempt', () => order.lock(object, object.isLocked !== true))"
        />
        its place is locked
      </label>
    </ToolSection>
    <ToolSection title="The way to it">
      <p v-if="way" class="number">
        <button type="button" class="in-words" @click="emit('look', way.from)">from {{ order.nameOf(way.from) }}</button>:
        <b>{{ HOWS[way.how] }}</b>, {{ way.length.toFixed(1) }} mm, {{ way.seconds.toFixed(1) }} s
      </p>
      <p v-else-if="stop !== undefined" class="muted">The machine stops before it.</p>
      <p v-else class="muted">Its thread is put on before it.</p>
      <div v-if="way" class="line">
        <ChoiceField
          class="wide"
          label="Cut on the way to it"
          :value="way.wish ?? 'none'"
          :choices="WISHES"
          @change="emit('attempt', () => order.wish(object, $event === 'none' ? null : $event))"
        />
        <v-btn v-if="way.how === 'trim' || way.how === 'jump'" variant="outlined" @click="emit('attempt', () => order.walk(object))"
          >Find a path</v-btn
        >
      </div>
      <v-btn v-if="way" variant="outlined" :disabled="order.isDrawing" @click="order.isDrawing = true">Draw the way</v-btn>
      <form class="line" @submit.prevent="emit('attempt', () => order.stopBefore(object, note.trim()))">
        <input v-model="note" class="words" maxlength="200" placeholder="stop: what to do" aria-label="What the operator does before it" />
        <v-btn type="submit" variant="outlined" :disabled="note.trim() === '' || note.trim() === stop">Stop</v-btn>
        <v-btn v-if="stop !== undefined" variant="text" @click="emit('attempt', () => order.stopBefore(object, null))">No stop</v-btn>
      </form>
    </ToolSection>
    <ToolSection :title="`Its thread, block ${blockAt + 1} of ${objects.known!.blocks.length}`">
      <div v-if="place.block.thread" class="line">
        <input type="color" :value="place.block.thread.color" aria-label="Color of the thread" @change="recolor" />
        <input class="words" :value="place.block.thread.name" aria-label="Name of the thread" @change="rename" />
      </div>
      <div class="line">
        <v-btn variant="outlined" :disabled="place.at === 0" @click="emit('attempt', () => order.splitBefore(object))"
          >Part the block here</v-btn
        >
        <ChoiceField
          v-if="others.length > 0"
          class="wide"
          label="Merge its block"
          :value="undefined"
          placeholder="merge…"
          :choices="others"
          @change="emit('attempt', () => order.merge(place!.block.id, $event))"
        />
      </div>
      <label class="part">
        <input
          type="checkbox"
          :checked="place.block.keep === true"
          @change="emit('attempt', () => order.keep(place!.block.id, place!.block.keep !== true))"
        />
        its block is kept apart from others of its thread
      </label>
    </ToolSection>
  </template>
  <p v-else class="muted none">{{ object.name }} is part of another object and is sewn with it.</p>
</template>

<style scoped>
.wide {
  flex: 1;
}

.part {
  display: flex;
  gap: 7px;
  align-items: center;
}

.short {
  color: var(--fix);
}

.words {
  flex: 1;
  min-width: 0;
  padding: 3px 7px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  color: inherit;
  font: inherit;
}

input[type='color'] {
  width: 34px;
  height: 27px;
  padding: 2px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}

.none {
  padding: 10px 0;
}
</style>
