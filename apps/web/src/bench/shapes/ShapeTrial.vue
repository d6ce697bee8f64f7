<script setup lang="ts">
import { useBench } from '../../stores/bench.ts';
import FigurePairs from './FigurePairs.vue';

/** What shapes that are being tried come to, and whether they are sewn so. */
defineProps<{ isBusy: boolean }>();
defineEmits<{ make: []; drop: [] }>();
const bench = useBench();
</script>

<template>
  <div v-if="bench.trial" class="foot">
    <ul v-if="bench.trial.trial.notes?.length" class="notes">
      <li v-for="note in bench.trial.trial.notes" :key="note">{{ note }}</li>
    </ul>
    <FigurePairs :before="bench.now!.view.figures" :after="bench.trial.shown.view.figures" />
    <div class="acts">
      <v-btn color="primary" :disabled="isBusy" @click="$emit('make')">Sew it so</v-btn>
      <v-btn variant="outlined" @click="$emit('drop')">Step back</v-btn>
    </div>
  </div>
</template>

<style scoped>
.notes {
  display: grid;
  gap: 3px;
  padding-bottom: 8px;
  font-size: 12.5px;
}

.foot {
  position: sticky;
  bottom: -14px;
  background: var(--card);
  padding: 8px 0 14px;
  border-top: 1px solid var(--line);
}

.acts {
  display: flex;
  gap: 8px;
  padding-top: 8px;
}
</style>
