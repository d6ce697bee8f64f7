<script setup lang="ts">
import { type Fabric, type Machine, withClock, withPull } from '@isola/core';
import { computed } from 'vue';
import { useSewOuts } from '../../stores/sewOuts.ts';
import { useShop } from '../../stores/shop.ts';
import LessonCard from './LessonCard.vue';

/** What all samples on this cloth and this machine taught, beside what the shop goes by now. */
const sewOuts = useSewOuts();
const shop = useShop();

const cloth = computed(() => shop.shop?.fabrics.find(({ id }) => id === sewOuts.draft?.fabric.id));
const machine = computed(() => shop.shop?.machines.find(({ id }) => id === sewOuts.draft?.machine.id));
const pull = computed(() => sewOuts.lessons?.pull ?? undefined);
const clock = computed(() => sewOuts.lessons?.clock ?? undefined);
const samples = (n: number): string => (n === 1 ? '1 sample' : `${n} samples`);

const clothCard = computed(() => {
  const [now, lesson] = [cloth.value, pull.value];
  if (now === undefined || lesson === undefined) return undefined;
  const next: Fabric = withPull(now, lesson);
  return {
    now,
    next,
    figures: [{ name: 'pull a side, mm', before: now.pull.toFixed(2), after: next.pull.toFixed(2), spread: lesson.spread.toFixed(2) }],
    behind: `${samples(lesson.samples)}, ${lesson.readings === 1 ? '1 reading' : `${lesson.readings} readings`}; ${lesson.from.toFixed(2)} mm before any`,
  };
});
const machineCard = computed(() => {
  const [now, lesson] = [machine.value, clock.value];
  if (now === undefined || lesson === undefined) return undefined;
  const next: Machine = withClock(now, lesson);
  return {
    now,
    next,
    figures: [
      { name: 'top speed, st/min', before: String(now.topSpeed), after: String(next.topSpeed), spread: lesson.topSpeed.spread.toFixed(0) },
      { name: 'a trim, s', before: now.trimCycle.toFixed(1), after: next.trimCycle.toFixed(1), spread: lesson.trimCycle.spread.toFixed(1) },
    ],
    behind: samples(lesson.samples),
  };
});
</script>

<template>
  <section v-if="sewOuts.lessons" aria-label="What it taught">
    <h3>What samples taught</h3>
    <LessonCard v-if="clothCard" kind="fabrics" v-bind="clothCard" />
    <p v-else class="muted small">Of the cloth nothing yet: that takes a width or a gap that was measured.</p>
    <LessonCard v-if="machineCard" kind="machines" v-bind="machineCard" />
    <p v-else class="muted small">Of the machine nothing yet: that takes the minutes of a sample.</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
}

h3 {
  font-size: 14px;
  font-weight: 600;
}

.small {
  font-size: 12px;
}
</style>
