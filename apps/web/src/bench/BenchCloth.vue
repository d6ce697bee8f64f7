<script setup lang="ts">
import { piecesOf, type PredictedGap } from '@isola/core';
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useBench } from '../stores/bench.ts';
import { numberFindings } from './docket/numberFindings.ts';
import { useDrawPad } from '../stores/drawPad.ts';
import { usePoints } from '../stores/points.ts';
import { useNodes } from '../stores/nodes.ts';
import { useObjects } from '../stores/objects.ts';
import { useOrder } from '../stores/order.ts';
import ClothLens from './cloth/ClothLens.vue';
import ClothView from './cloth/ClothView.vue';
import type { ClothViewHandle } from './cloth/handles.ts';
import FindingMarks from './cloth/FindingMarks.vue';
import GapMarks from './cloth/GapMarks.vue';
import type { Viewport } from './cloth/viewport.ts';
import { findFindingAt } from './findFindingAt.ts';
import { findObjectAt } from './objects/findObjectAt.ts';
import ObjectMarks from './objects/ObjectMarks.vue';
import { CLOSE_SCALE, placesOf } from './objects/placesOf.ts';
import PathDrawer from './order/PathDrawer.vue';
import DrawPad from './shapes/DrawPad.vue';
import PointPad from './points/PointPad.vue';
import NodeHandles from './shapes/NodeHandles.vue';
import WayMarks from './order/WayMarks.vue';
import EndHandles from './order/EndHandles.vue';
import AngleHandle from './spec/AngleHandle.vue';
import { useViewing } from '../stores/viewing.ts';

const props = defineProps<{ hasMarks?: boolean; hasObjects?: boolean }>();

const bench = useBench();
const viewing = useViewing();
const objects = useObjects();
const order = useOrder();
const pad = useDrawPad();
const nodes = useNodes();
const points = usePoints();
/** What marks the selected object gives way to what is drawn on the cloth. */
const isByHand = computed(() => pad.isOn || nodes.isOn || points.isOn);
const cloth = useTemplateRef<ClothViewHandle>('cloth');
const view = ref<Viewport>({ x: 0, y: 0, scale: 1 });

watch(
  [() => viewing.kind, () => bench.shown?.number],
  ([kind]) => {
    if (kind === 'cover') void bench.cover(bench.trial === undefined ? 'now' : 'trial');
  },
  { immediate: true },
);
/** Pairs of objects between which the cloth will show; found anew with each trial and whenever the objects are known anew. */
const gaps = shallowRef<readonly PredictedGap[]>([]);
watch(
  [() => viewing.kind === 'sewn', () => bench.shown?.number, () => objects.known],
  async ([isSewn, , known]) => {
    if (!isSewn || known === undefined) return;
    gaps.value = await bench.predict(bench.trial === undefined ? 'now' : 'trial');
  },
  { immediate: true },
);
/** Those between objects that a replay has sewn by now. */
const sewnGaps = computed(() => {
  const isSewn = (k: number): boolean => (objects.objects[k]?.last ?? Infinity) < bench.picturedUpTo;
  return bench.picturedUpTo === Infinity ? gaps.value : gaps.value.filter((gap) => gap.objects.every(isSewn));
});
/** Cloth that is laid on placement lines; what is sewn anew lies as it did until it is known again. */
const pieces = computed(() => {
  const known = bench.trial?.shown.view.objects ?? bench.now?.view.objects;
  return piecesOf(known?.objects ?? [])
    .filter(({ after }) => after < bench.picturedUpTo)
    .map(({ edge, look, color }) => ({ edge: [...edge], look, color }));
});
/** What was picked by its name is brought into sight; what was picked on the cloth is there already. */
function goToObject(): void {
  if (objects.selected !== undefined) cloth.value?.goTo(placesOf(objects.selected), CLOSE_SCALE);
}

watch(
  () => bench.selectedFinding,
  (finding) => {
    if (finding !== undefined) cloth.value?.goTo([finding.at, ...finding.places], CLOSE_SCALE);
  },
);

/** A click takes up the finding under it, or else takes the replay to the stitch that lies there. */
function pick(x: number, y: number, reach: number, isMore: boolean): void {
  if (props.hasObjects) {
    const program = bench.shown?.view.program;
    const found = program === undefined ? undefined : findObjectAt(program, objects.objects, objects.part, x, y, reach * 2);
    if (isMore && found !== undefined) objects.pickToo(found);
    else objects.select(found);
    return;
  }
  const finding = findFindingAt(bench.openFindings, x, y, reach * 2);
  if (finding !== undefined) {
    viewing.selected = finding.key;
    return;
  }
  const shown = bench.shown;
  if (shown === undefined) return;
  const { program, done } = shown.view;
  let best = -1;
  let least = reach * 2;
  for (let i = 0; i < program.rowCount; i++) {
    if (program.command[i] !== 0) continue;
    const distance = Math.hypot(program.x[i]! - x, program.y[i]! - y);
    if (distance <= least) {
      least = distance;
      best = i;
    }
  }
  viewing.time = best < 0 ? undefined : done[best]!;
}

defineExpose({
  fit: () => cloth.value?.fit(),
  zoomBy: (factor: number) => cloth.value?.zoomBy(factor),
  goToObject,
});
</script>

<template>
  <ClothView
    ref="cloth"
    v-model:view="view"
    :shown="bench.pictured"
    :kind="viewing.kind"
    :up-to="bench.picturedUpTo"
    :coming="viewing.time === undefined ? bench.coming : undefined"
    channel="bench"
    has-frame
    :part="hasObjects ? objects.part : 'all'"
    :pieces="pieces"
    :stamp="bench.coverCount + objects.stamp"
    :label="`${bench.job?.name}, sewn on ${bench.shown?.view.target.fabric.name}. Its ${hasObjects ? 'objects' : 'findings'} are listed beside it.`"
    @pick="pick"
    @painted="bench.notePicture"
  >
    <template #default="{ view: seen, size, isPainted }">
      <FindingMarks
        v-if="hasMarks && isPainted && !viewing.isPlaying && bench.trial === undefined"
        :findings="bench.openFindings"
        :place="viewing.selectedPlace"
        :numbers="numberFindings(bench.openFindings)"
        :selected="viewing.selected"
        :view="seen"
        :size="size"
        @select="viewing.selected = $event"
      />
      <ObjectMarks v-if="hasObjects && !viewing.isPlaying && !nodes.isOn" has-handle :view="seen" :size="size" />
      <WayMarks
        v-if="viewing.kind === 'paths' && !viewing.isPlaying && viewing.time === undefined"
        :connectors="bench.trial?.trial.order?.connectors ?? (bench.trial === undefined ? order.connectors : [])"
        :name-of="order.nameOf"
        :view="seen"
        :size="size"
      />
      <EndHandles v-if="hasObjects && !viewing.isPlaying && !isByHand" :view="seen" :size="size" />
      <PathDrawer v-if="hasObjects && order.isDrawing" :view="seen" :size="size" />
      <DrawPad v-if="hasObjects && pad.isOn" :view="seen" :size="size" />
      <PointPad v-if="hasObjects && points.isOn && !viewing.isPlaying" :view="seen" :size="size" />
      <NodeHandles v-if="hasObjects && nodes.isOn && !viewing.isPlaying" :view="seen" :size="size" />
      <AngleHandle v-if="hasObjects && !viewing.isPlaying && !isByHand" :view="seen" :size="size" />
      <GapMarks v-if="viewing.kind === 'sewn'" :gaps="sewnGaps" :view="seen" :size="size" />
      <ClothLens
        v-model="viewing.kind"
        :has-objects="objects.known !== undefined"
        :max-cover="bench.shown?.view.target.fabric.maxCover ?? 0"
        :gaps="gaps"
        @fit="cloth?.fit()"
        @zoom="cloth?.zoomTo($event)"
      />
    </template>
  </ClothView>
</template>
