<script setup lang="ts">
import { nextTick, onBeforeUnmount, onMounted, useTemplateRef, watch } from 'vue';
import BenchCloth from '../../bench/BenchCloth.vue';
import type { ObjectClothHandle } from '../../bench/cloth/handles.ts';
import ObjectFacts from '../../bench/objects/ObjectFacts.vue';
import ObjectList from '../../bench/objects/ObjectList.vue';
import PartPicker from '../../bench/objects/PartPicker.vue';
import SewTape from '../../bench/tape/SewTape.vue';
import { useBenchKeys } from '../../bench/useBenchKeys.ts';
import { whenThere } from '../../bench/whenThere.ts';
import { useBench } from '../../stores/bench.ts';
import { useLater } from '../../stores/useLater.ts';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';
import { useOrder } from '../../stores/order.ts';
import { useSpecs } from '../../stores/specs.ts';
import { useViewing } from '../../stores/viewing.ts';

const bench = useBench();
const isLater = useLater();
const viewing = useViewing();
const objects = useObjects();
const order = useOrder();
const specs = useSpecs();
const notices = useNotices();
const cloth = useTemplateRef<ObjectClothHandle>('cloth');
const facts = useTemplateRef<{ join: () => Promise<void>; split: () => Promise<void>; propose: () => Promise<void> }>('facts');
/** What the panel does to objects, once it and they are there. */
const withFacts = whenThere(() => (objects.known === undefined ? undefined : facts.value));

useBenchKeys({
  fit: () => cloth.value?.fit(),
  zoomBy: (factor) => cloth.value?.zoomBy(factor),
  accept: () => {
    // What is shown is about to be another: nobody could mean to keep it.
    if (order.isWorking) return;
    (specs.isChanged ? specs.make() : bench.acceptTrial()).catch((error: unknown) => notices.complain(error));
  },
  objects: {
    step: (by) => {
      objects.step(by);
      goTo();
    },
    show: (part) => (objects.part = part),
    join: () => withFacts((panel) => panel.join()),
    split: () => withFacts((panel) => panel.split()),
    order: () => withFacts((panel) => panel.propose()),
    clear: () => objects.select(undefined),
  },
});

/** Where someone scrubs or steps to, there is an object: it is the one that is meant. */
watch([() => viewing.time, () => viewing.isPlaying] as const, ([time, isPlaying]) => {
  if (time !== undefined && !isPlaying) objects.selectRow(bench.upTo - 1);
});
onBeforeUnmount(() => (objects.part = 'all'));
// Who comes here from a finding is at its object.
onMounted(() => objects.selected !== undefined && goTo());

function goTo(): void {
  void nextTick(() => cloth.value?.goToObject());
}
</script>

<template>
  <main class="rework">
    <ObjectList v-if="isLater" @pick="goTo" />
    <aside v-else />
    <div class="cloth">
      <BenchCloth ref="cloth" has-objects />
      <PartPicker />
    </div>
    <ObjectFacts v-if="isLater" ref="facts" @pick="goTo" />
    <aside v-else />
    <div class="tape"><SewTape v-if="isLater" /></div>
  </main>
</template>

<style scoped>
.rework {
  display: grid;
  grid-template: minmax(0, 1fr) auto / 290px minmax(0, 1fr) 292px;
  min-height: 0;
}

.cloth {
  position: relative;
  min-width: 0;
  min-height: 0;
}

.tape {
  grid-column: 1 / 4;
  height: var(--tape-height);
}
</style>
