<script setup lang="ts">
import { AS_FILED, centered, extentsInHoop, type HoopPlace, smallestHoop, turned } from '@isola/core';
import { computed } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useShop } from '../../stores/shop.ts';

/** How the design lies in the hoop: moved and turned as a whole. What is typed is where its middle lies. */
const bench = useBench();
const notices = useNotices();
const shop = useShop();

/** Nearer to the hoop's center than this (mm) nobody could tell. */
const SLACK = 0.5;

const view = computed(() => bench.now!.view);
const place = computed(() => view.value.target.place ?? AS_FILED);
const inHoop = computed(() => extentsInHoop(view.value.program, view.value.figures.extents, place.value));
const middle = computed(() => ({ x: (inHoop.value.minX + inHoop.value.maxX) / 2, y: (inHoop.value.minY + inHoop.value.maxY) / 2 }));
const isOff = computed(() => Math.max(Math.abs(middle.value.x), Math.abs(middle.value.y)) > SLACK);

/** Cloth moves least in the smallest hoop that takes the design. */
const smallest = computed(() => {
  const { hoop } = view.value.target;
  if (view.value.figures.stitches === 0) return undefined;
  const found = smallestHoop(shop.shop?.hoops ?? [], inHoop.value);
  const isSmaller = found !== undefined && found.width * found.height < hoop.width * hoop.height;
  const isOver = inHoop.value.width > hoop.width || inHoop.value.height > hoop.height;
  return found !== undefined && found.id !== hoop.id && (isSmaller || isOver) ? found : undefined;
});

const isIn = ({ width, height }: { readonly width: number; readonly height: number }): boolean =>
  inHoop.value.width <= width && inHoop.value.height <= height;
/** Whether a quarter turn would lay it into the hoop that it does not fit as it lies. */
const wantsTurn = computed(() => {
  const { width, height } = view.value.target.hoop;
  return !isIn({ width, height }) && isIn({ width: height, height: width });
});
const quarter = computed(() => {
  const turn = place.value.turn >= 270 ? place.value.turn - 270 : place.value.turn + 90;
  return centered(view.value.program, view.value.figures.extents, { ...place.value, turn });
});

async function takeSmallest(): Promise<void> {
  const hoop = smallest.value!;
  const isUpright = isIn(hoop);
  const to = isUpright ? centered(view.value.program, view.value.figures.extents, place.value) : quarter.value;
  try {
    await bench.setTarget(`hoop: ${hoop.name}${isUpright ? '' : ', turned by a quarter'}`, { ...view.value.target, hoop, place: to });
  } catch (error) {
    notices.complain(error);
  }
}

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
    <p v-if="wantsTurn" class="off">
      <span>It fits the hoop turned by a quarter. Hoop the garment turned the same way.</span>
      <v-btn variant="outlined" @click="lay('turn it by a quarter', quarter)">Turn it</v-btn>
    </p>
    <p v-if="smallest" class="smallest muted">
      <span>The smallest hoop that takes it is {{ smallest.name }}.</span>
      <v-btn variant="text" size="small" @click="takeSmallest">Take it</v-btn>
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

.smallest {
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
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
