<script setup lang="ts">
import { computed, useTemplateRef } from 'vue';
import BenchCloth from '../../bench/BenchCloth.vue';
import type { ClothHandle } from '../../bench/cloth/handles.ts';
import SewTape from '../../bench/tape/SewTape.vue';
import { useBenchKeys } from '../../bench/useBenchKeys.ts';
import { useBench } from '../../stores/bench.ts';
import { useLater } from '../../stores/useLater.ts';
import FileFacts from './FileFacts.vue';
import JobDetails from './JobDetails.vue';
import TargetForm from './TargetForm.vue';

const bench = useBench();
const isLater = useLater();
const isBlank = computed(() => bench.now?.view.figures.stitches === 0);
const cloth = useTemplateRef<ClothHandle>('cloth');
useBenchKeys({ fit: () => cloth.value?.fit(), zoomBy: (factor) => cloth.value?.zoomBy(factor) });
</script>

<template>
  <main class="take-in">
    <aside>
      <template v-if="isLater">
        <JobDetails />
        <TargetForm />
        <v-btn v-if="isBlank" size="default" block :to="{ name: 'rework' }">Draw it</v-btn>
        <v-btn v-else size="default" block :to="{ name: 'audit' }">See what is wrong with it for this cloth</v-btn>
        <FileFacts />
      </template>
    </aside>
    <BenchCloth ref="cloth" />
    <div class="tape"><SewTape v-if="isLater" /></div>
  </main>
</template>

<style scoped>
.take-in {
  display: grid;
  grid-template: minmax(0, 1fr) auto / 396px minmax(0, 1fr);
  min-height: 0;
}

aside {
  display: grid;
  gap: 18px;
  align-content: start;
  padding: 16px;
  overflow-y: auto;
  background: var(--card);
  border-right: 1px solid var(--line);
}

.tape {
  grid-column: 1 / 3;
  height: var(--tape-height);
}
</style>
