<script setup lang="ts">
import { type SpecKind } from '@isola/core';
import { computed, ref } from 'vue';
import { DRAWN_PLACES, type DrawnPlace, useDrawPad } from '../../stores/drawPad.ts';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { useAct } from '../../stores/useAct.ts';
import ChoiceField from '../fields/ChoiceField.vue';
import ShapeTrial from './ShapeTrial.vue';

/** Draws a new object, or a cut through the selected one, on the cloth or by typed places. */
const pad = useDrawPad();
const bench = useBench();
const objects = useObjects();
const { isBusy, act } = useAct();

const FORMS = [
  ['closed', 'a closed shape'],
  ['line', 'a line'],
  ['sides', 'a column by its two sides'],
  ['middle', 'a column by its middle'],
] as const;
const KINDS: Readonly<Record<(typeof FORMS)[number][0], readonly (readonly [SpecKind, string])[]>> = {
  closed: [
    ['fill', 'fill'],
    ['satin', 'satin'],
    ['contour', 'contour fill'],
    ['meander', 'meander fill'],
    ['edge-stitch', 'edge stitch'],
    ['run', 'run'],
  ],
  line: [
    ['run', 'run'],
    ['satin', 'satin'],
    ['edge-stitch', 'edge stitch'],
  ],
  sides: [
    ['satin', 'satin'],
    ['fill', 'fill'],
  ],
  middle: [
    ['satin', 'satin'],
    ['fill', 'fill'],
  ],
};
const kind = computed(() => pad.values.kind ?? KINDS[pad.form][0]![0]);
const hasWidth = computed(() => pad.form === 'middle' || (pad.form === 'line' && kind.value !== 'run'));
const places = computed(() => DRAWN_PLACES.filter((place) => (place !== 'after' && place !== 'before') || objects.selected !== undefined));
const PLACE_WORDS: Readonly<Record<DrawnPlace, string>> = { after: 'after', before: 'before', first: 'before everything', last: 'last' };
const sayPlace = (place: DrawnPlace): string =>
  place === 'after' || place === 'before' ? `${place} ${objects.selected?.name ?? ''}` : PLACE_WORDS[place];
const chosenPlace = computed(() => (places.value.includes(pad.values.place) ? pad.values.place : 'last'));

/** With other values what is drawn is tried again. */
function set(values: Partial<typeof pad.values>): void {
  pad.values = { ...pad.values, ...values };
  if (bench.trial !== undefined || pad.problem !== '') void act(() => pad.attempt());
}

function setForm(form: (typeof FORMS)[number][0]): void {
  const { kind: _, ...rest } = pad.values;
  pad.values = rest;
  pad.start('draw', form);
}

const typed = ref('');
/** “12.5 −3”: a node at a typed place. */
function setTyped(): void {
  const [x, y] = typed.value
    .replace(/−/g, '-')
    .split(/[\s;]+/)
    .map((part) => Number(part.replace(',', '.')));
  if (x === undefined || y === undefined || !Number.isFinite(x) || !Number.isFinite(y)) {
    pad.problem = 'a place is typed as two numbers in mm, as in 12.5 -3';
    return;
  }
  pad.problem = '';
  pad.set(x, y);
  typed.value = '';
}
const width = computed({ get: () => String(pad.width), set: (v: string) => void (pad.width = Number(v.replace(',', '.')) || pad.width) });
</script>

<template>
  <div class="draw">
    <template v-if="pad.tool === 'draw'">
      <label class="field"
        ><span>What</span> <ChoiceField label="What is drawn" :value="pad.form" :choices="FORMS" @change="setForm"
      /></label>
      <label class="field"
        ><span>Sewn as</span> <ChoiceField label="Sewn as" :value="kind" :choices="KINDS[pad.form]" @change="set({ kind: $event })"
      /></label>
      <label class="field"
        ><span>In the order</span>
        <ChoiceField
          label="In the order"
          :value="chosenPlace"
          :choices="places.map((place) => [place, sayPlace(place)] as const)"
          @change="set({ place: $event })"
      /></label>
      <label v-if="hasWidth" class="field"
        ><span>{{ pad.form === 'middle' ? 'Width at the next node' : 'Width' }}</span>
        <span class="number"
          ><input v-model="width" inputmode="decimal" :aria-label="pad.form === 'middle' ? 'Width at the next node' : 'Width'" /> mm</span
        ></label
      >
      <label class="field"
        ><span>Color</span>
        <span class="color"
          ><input
            type="color"
            aria-label="Color"
            :value="pad.values.color ?? objects.selected?.color ?? '#1f4e5f'"
            @change="set({ color: ($event.target as HTMLInputElement).value })"
          />
          <em v-if="!pad.values.color" class="muted">as beside it</em></span
        ></label
      >
      <label class="field"
        ><span>Called</span>
        <input
          class="text"
          aria-label="Called"
          maxlength="100"
          :value="pad.values.name ?? ''"
          @change="set({ name: ($event.target as HTMLInputElement).value })"
      /></label>
    </template>
    <p v-else class="muted">
      Draw a line across {{ objects.selected?.name ?? 'an object' }}: it goes on straight beyond its ends, and what lies to its right
      becomes an object of its own.
    </p>
    <form v-if="pad.isDrawing" class="typed" @submit.prevent="setTyped">
      <label>Node at <input v-model="typed" aria-label="Node at, x and y in mm" placeholder="x y, mm" autocomplete="off" /></label>
      <v-btn type="submit" size="small" variant="outlined">Set</v-btn>
      <span class="muted number">{{ pad.nodes.length / 6 }} set</span>
    </form>
    <div class="acts">
      <v-btn v-if="pad.isDrawing" variant="outlined" :disabled="!pad.canFinish || isBusy" @click="act(() => pad.finish())"
        >End it and try</v-btn
      >
      <v-btn v-if="pad.isDrawing && pad.nodes.length > 0" variant="text" @click="pad.takeBack()">One node back</v-btn>
      <v-btn
        v-if="!pad.isDrawing && pad.tool === 'draw' && pad.form === 'closed' && pad.lines.length > 0"
        variant="outlined"
        @click="pad.addHole()"
        >Draw a hole in it</v-btn
      >
    </div>
    <p v-if="pad.problem" class="short" role="alert">Nothing was changed: {{ pad.problem }}.</p>
    <ShapeTrial
      v-if="!pad.isDrawing && bench.trial"
      :is-busy="isBusy"
      @make="act(() => bench.acceptTrial())"
      @drop="pad.start(pad.tool!)"
    />
  </div>
</template>

<style scoped>
.draw {
  display: grid;
  gap: 9px;
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

.color {
  display: flex;
  gap: 8px;
  align-items: center;
}

.typed {
  display: flex;
  gap: 8px;
  align-items: center;
}

.typed input {
  width: 92px;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}

.short {
  color: var(--fix);
}
</style>
