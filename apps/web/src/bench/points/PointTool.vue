<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useObjects } from '../../stores/objects.ts';
import { PICK_TOOLS, usePoints } from '../../stores/points.ts';
import { useAct } from '../../stores/useAct.ts';
import ToggleRow from '../fields/ToggleRow.vue';

/** What can be done to the penetrations that are picked. */
const points = usePoints();
const objects = useObjects();
const { act } = useAct();

const count = computed(() => points.picked.length);
const one = computed(() => (count.value === 1 ? points.picked[0]! : undefined));
const first = ref('');
const second = ref('');
const length = ref('2.5');

/** Of one its place is typed, of several how far they are moved. */
watch(
  [one, () => points.program],
  () => {
    const { program } = points;
    first.value = one.value === undefined ? '' : program!.x[one.value]!.toFixed(2);
    second.value = one.value === undefined ? '' : program!.y[one.value]!.toFixed(2);
  },
  { immediate: true },
);

const numberOf = (text: string): number => Number(text.replace('−', '-').replace(',', '.').trim() || '0');

function moveTyped(): Promise<void> {
  const [a, b] = [numberOf(first.value), numberOf(second.value)];
  if (!Number.isFinite(a) || !Number.isFinite(b)) {
    points.problem = 'a place is typed as numbers in mm';
    return Promise.resolve();
  }
  const { program } = points;
  return one.value === undefined ? points.moveBy(a, b) : points.moveBy(a - program!.x[one.value]!, b - program!.y[one.value]!);
}

const TOOL_WORDS = { lasso: 'Lasso', box: 'Box', brush: 'Brush' } as const;
const TOOLS = PICK_TOOLS.map((id) => ({ id, title: TOOL_WORDS[id] }));
</script>

<template>
  <div class="tool">
    <ToggleRow label="Picked by" :value="points.tool" :choices="TOOLS" @choose="points.tool = $event" />
    <label v-if="points.tool === 'brush'" class="field"
      ><span>Brush, half as wide</span>
      <span class="number"
        ><input v-model.number="points.brush" inputmode="decimal" aria-label="Half of the brush’s width" /> mm</span
      ></label
    >
    <label v-if="objects.selected"><input v-model="points.isOfObject" type="checkbox" /> only of {{ objects.selected.name }}</label>
    <p class="muted">
      Click or draw around; Shift adds; what is picked is dragged. Arrows move what is picked by 0.1 mm, with Shift 1 mm; with nothing
      picked they step, and Enter picks the stitch there. Alt pans.
    </p>
    <p class="number">{{ count === 0 ? 'Nothing picked' : `${count} picked` }}</p>
    <form v-if="count > 0" class="typed" @submit.prevent="act(moveTyped)">
      <span>{{ one === undefined ? 'Move by' : 'At' }}</span>
      <input v-model="first" class="number" inputmode="decimal" :aria-label="one === undefined ? 'To the right, mm' : 'x, mm'" />
      <input v-model="second" class="number" inputmode="decimal" :aria-label="one === undefined ? 'Up, mm' : 'y, mm'" />
      <v-btn type="submit" size="small" variant="outlined">Move</v-btn>
    </form>
    <div class="acts">
      <v-btn
        size="small"
        variant="outlined"
        :disabled="one === undefined"
        title="I"
        @click="act(() => points.onOne('insert', { side: 'before' }))"
        >Set one before</v-btn
      >
      <v-btn
        size="small"
        variant="outlined"
        :disabled="one === undefined"
        title="i"
        @click="act(() => points.onOne('insert', { side: 'after' }))"
        >after</v-btn
      >
      <v-btn size="small" variant="outlined" :disabled="one === undefined" title="x" @click="act(() => points.onOne('cut'))"
        >Cut the thread after it</v-btn
      >
      <v-btn size="small" variant="outlined" :disabled="count === 0" title="Delete" @click="act(() => points.onPicked('delete'))"
        >Delete</v-btn
      >
      <v-btn size="small" variant="outlined" :disabled="count === 0" @click="act(() => points.onPicked('jump'))">Lift: a jump</v-btn>
      <v-btn size="small" variant="outlined" :disabled="count < 3" title="m" @click="act(() => points.onPicked('smooth'))">Smooth</v-btn>
      <v-btn size="small" variant="outlined" :disabled="count < 3" @click="act(() => points.onPicked('straighten'))">Straighten</v-btn>
      <v-btn size="small" variant="outlined" :disabled="count === 0" @click="act(() => points.onPicked('take-out'))"
        >Take out, clean ends</v-btn
      >
    </div>
    <form v-if="count > 1" class="typed" @submit.prevent="act(() => points.onPicked('respace', { length: numberOf(length) }))">
      <span>Every</span>
      <input v-model="length" class="number" inputmode="decimal" aria-label="Stitch length, mm" />
      <span>mm</span>
      <v-btn type="submit" size="small" variant="outlined">Space anew</v-btn>
    </form>
    <label
      ><input
        type="checkbox"
        :checked="points.onLong === 'split'"
        @change="points.onLong = ($event.target as HTMLInputElement).checked ? 'split' : 'refuse'"
      />
      part stitches that get too long</label
    >
    <p v-if="points.problem" class="short" role="alert">Nothing was changed: {{ points.problem }}.</p>
    <ul v-if="points.notes.length > 0" class="notes" role="status">
      <li v-for="note in points.notes" :key="note">{{ note }}</li>
    </ul>
  </div>
</template>

<style scoped>
.tool {
  display: grid;
  gap: 9px;
}

.field {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: center;
}

.typed {
  display: flex;
  gap: 6px;
  align-items: center;
}

.typed input {
  width: 62px;
  text-align: right;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

.notes {
  display: grid;
  gap: 3px;
  font-size: 12.5px;
}

.short {
  color: var(--fix);
}
</style>
