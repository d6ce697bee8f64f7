<script setup lang="ts">
import { STITCH_KINDS, type StitchKind, type StitchObject, type StitchRole } from '@isola/core';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';
import { sayCount } from '../figures/sayFigures.ts';
import ShapePanel from '../shapes/ShapePanel.vue';
import OrderPanel from '../order/OrderPanel.vue';
import DesignTools from '../spec/DesignTools.vue';
import SpecPanel from '../spec/SpecPanel.vue';
import FactsSide from './FactsSide.vue';
import ObjectName from './ObjectName.vue';
import { sayDoubt } from './sayObject.ts';

const emit = defineEmits<{ pick: [] }>();
const bench = useBench();
const objects = useObjects();
const notices = useNotices();

const object = computed(() => objects.selected);
const doubt = computed(() => (object.value === undefined ? '' : sayDoubt(object.value)));

async function attempt(act: () => Promise<string | undefined>): Promise<void> {
  try {
    const why = await act();
    if (why !== undefined) notices.say('Nothing was changed', why);
  } catch (error) {
    notices.complain(error);
  }
}

const join = (): Promise<void> => attempt(objects.joinWithNext);
const split = (): Promise<void> => attempt(objects.splitHere);
const move = (by: 1 | -1): Promise<void> => attempt(() => objects.move(by));

function tell(value: string): void {
  const isKind = (STITCH_KINDS as readonly string[]).includes(value);
  const kind = isKind ? (value as StitchKind) : object.value!.kind;
  const role = isKind ? 'cover' : (value as StitchRole);
  void attempt(() => objects.tell(kind, role));
}

const SIDES = ['spec', 'facts', 'shape', 'order', 'design'] as const;
/** Which side of the object is shown; stays for the next one. The design's side stays as it is while others are looked at. */
const side = ref<(typeof SIDES)[number]>('spec');
/** With no object selected there are the sides of the whole design only. */
const sides = computed(() => (object.value === undefined ? SIDES.slice(2) : SIDES));
const shownSide = computed(() => (sides.value.includes(side.value) ? side.value : 'design'));
/** Nothing is sewn yet: it can only be drawn, one object after another. */
const isBlank = computed(() => objects.known !== undefined && objects.objects.length === 0);
watch(isBlank, (blank) => blank && (side.value = 'shape'), { immediate: true });
const orderPanel = useTemplateRef<{ propose: () => Promise<void> }>('orderPanel');

/** Selects an object without leaving what is done to the whole design. */
function look(id: string): void {
  side.value = shownSide.value;
  objects.select(objects.objects.find((o) => o.id === id));
  emit('pick');
}

async function propose(): Promise<void> {
  side.value = 'order';
  await nextTick();
  await orderPanel.value?.propose();
}

function sayStanding(o: StitchObject): string {
  const edited = o.edited === undefined ? '' : ` · ${sayCount(o.edited)} changed singly`;
  if (o.made !== undefined) return `Sewn from its spec · ${sayCount(o.stitches)} stitches${edited}`;
  const known = o.confidence === 1 ? 'As you told' : `Recognized at ${(100 * o.confidence).toFixed(0)} %`;
  return `${known} · own stitches, ${sayCount(o.stitches)}${edited}`;
}

defineExpose({ join, split, propose });
</script>

<template>
  <aside class="facts" aria-label="The selected object">
    <template v-if="object">
      <ObjectName :object="object" />
      <p class="muted">
        {{ sayStanding(object) }}
      </p>
      <p v-if="doubt" class="doubt">{{ doubt }}</p>
    </template>
    <div v-else class="none">
      <h2>{{ isBlank ? 'Nothing is sewn yet' : 'No object is selected' }}</h2>
      <p v-if="isBlank" class="muted">Draw on the cloth: a shape, a line, a column.</p>
      <p v-else-if="bench.trial === undefined" class="muted">
        Click one on the cloth, in the list or in the tape, or press Alt with an arrow key to step through them.
      </p>
    </div>
    <div v-if="objects.known" class="sides" role="group" aria-label="What of it">
      <button v-for="s in sides" :key="s" type="button" :aria-pressed="shownSide === s" @click="side = s">{{ s }}</button>
    </div>
    <SpecPanel v-if="object && shownSide === 'spec'" />
    <FactsSide v-else-if="object && shownSide === 'facts'" @pick="emit('pick')" @join="join" @split="split" @tell="tell" @move="move" />
    <ShapePanel v-if="objects.known && shownSide === 'shape'" />
    <OrderPanel v-if="objects.known && shownSide === 'order'" ref="orderPanel" @look="look" />
    <DesignTools v-if="objects.known" v-show="shownSide === 'design'" @look="look" />
  </aside>
</template>

<style scoped>
.facts {
  display: flex;
  flex-direction: column;
  padding: 14px 16px;
  overflow-y: auto;
  background: var(--card);
  border-left: 1px solid var(--line);
}

h2 {
  font-size: 15px;
  font-weight: 600;
}

.sides {
  display: flex;
  flex: none;
  margin: 10px 0 4px;
  overflow: hidden;
  border: 1px solid var(--line);
  border-radius: 7px;
}

.sides button {
  text-transform: capitalize;
  flex: 1;
  padding: 4px;
  border: 0;
  background: none;
  color: var(--ink-2);
  font: inherit;
  cursor: pointer;
}

.sides button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--card);
}

.doubt {
  margin-top: 6px;
  color: var(--fix);
  font-weight: 500;
}

.none {
  margin-bottom: 10px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
</style>
