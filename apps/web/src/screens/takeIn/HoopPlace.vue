<script setup lang="ts">
import { AS_FILED, centered, extentsInHoop, type HoopPlace, turned } from '@isola/core';
import { computed } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';

/** How the design lies in the hoop: moved and turned as a whole. What is typed is where its middle lies. */
const bench = useBench();
const notices = useNotices();

/** Nearer to the hoop's center than this (mm) nobody could tell. */
const SLACK = 0.5;

const view = computed(() => bench.now!.view);
const place = computed(() => view.value.target.place ?? AS_FILED);
const inHoop = computed(() => extentsInHoop(view.value.program, view.value.figures.extents, place.value));
const middle = computed(() => ({ x: (inHoop.value.minX + inHoop.value.maxX) / 2, y: (inHoop.value.minY + inHoop.value.maxY) / 2 }));
const isOff = computed(() => Math.max(Math.abs(middle.value.x), Math.abs(middle.value.y)) > SLACK);

async function lay(name: string, to: HoopPlace): Promise<void> {
  try {
    await bench.setTarget(name, { ...view.value.target, place: to });
  } catch (error) {
    notices.complain(error);
  }
}

const center = (): Promise<void> => lay('center it in the hoop', centered(view.value.program, view.value.figures.extents, place.value));

function move(axis: 'x' | 'y', event: Event): void {
  const to = read(event, 500, say(middle.value[axis]));
  if (to === undefined) return;
  const by = Math.round((to - middle.value[axis]) * 100) / 100;
  const names = { x: by < 0 ? 'left' : 'right', y: by < 0 ? 'down' : 'up' };
  if (by !== 0)
    void lay(`move it ${Math.abs(by)} mm ${names[axis]}`, { ...place.value, [axis]: Math.round((place.value[axis] + by) * 100) / 100 });
}

function turn(event: Event): void {
  const to = read(event, 359.9, String(place.value.turn));
  if (to === undefined || to === place.value.turn) return;
  void lay(`turn it to ${to}° in the hoop`, turned(view.value.program, view.value.figures.extents, place.value, to));
}

/** The number that a field has; what is none is put back and said. */
function read(event: Event, most: number, shown: string): number | undefined {
  const field = event.target as HTMLInputElement;
  const value = Number(field.value.replace(',', '.').replace('−', '-'));
  if (field.value.trim() !== '' && Number.isFinite(value) && Math.abs(value) <= most) return value;
  field.value = shown;
  notices.complain(new Error(`Here goes a number from −${most} to ${most}.`));
  return undefined;
}

const say = (v: number): string => (Math.round(v * 10) / 10 + 0).toFixed(1).replace('-', '−');
</script>

<template>
  <section class="place" aria-label="How it lies in the hoop">
    <p v-if="isOff" class="off">
      <span>Its middle lies {{ say(middle.x) }}, {{ say(middle.y) }} mm from the hoop’s center.</span>
      <v-btn variant="outlined" @click="center">Center it</v-btn>
    </p>
    <div class="three">
      <v-text-field label="Middle, mm right" inputmode="decimal" :model-value="say(middle.x)" @change="move('x', $event)" />
      <v-text-field label="Middle, mm up" inputmode="decimal" :model-value="say(middle.y)" @change="move('y', $event)" />
      <v-text-field label="Turned, ° left" inputmode="decimal" :model-value="String(place.turn)" @change="turn" />
    </div>
  </section>
</template>

<style scoped>
.place {
  display: grid;
  gap: 9px;
}

.three {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 9px;
}

.off {
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
  padding: 8px 10px;
  border-left: 3px solid var(--fix);
  background: #f8eeda;
}
</style>
