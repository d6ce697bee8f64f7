<script setup lang="ts">
import { computed } from 'vue';
import { useBench } from '../stores/bench.ts';
import { useNotices } from '../stores/notices.ts';

const bench = useBench();
const notices = useNotices();
const isOpen = computed(() => bench.saving.state === 'conflict' || bench.saving.state === 'refused');
const steps = computed(() => bench.saving.unsent.entries.map((entry) => (entry.kind === 'do' ? entry.name : entry.kind)));

async function settle(isKept: boolean): Promise<void> {
  try {
    await bench.settleConflict(isKept);
  } catch (error) {
    notices.complain(error);
  }
}
</script>

<template>
  <v-dialog :model-value="isOpen" persistent>
    <v-card :title="bench.saving.state === 'conflict' ? 'This job was changed in another window' : 'The server refused a step'">
      <v-card-text>
        <p v-if="bench.saving.state === 'conflict'">What was done there stays. These steps were made here and are not in the job yet:</p>
        <p v-else>{{ bench.saving.reason }}</p>
        <ul class="steps">
          <li v-for="(step, index) in steps" :key="index">{{ step }}</li>
        </ul>
      </v-card-text>
      <v-card-actions>
        <v-btn variant="text" @click="settle(false)">Let them go</v-btn>
        <v-spacer />
        <v-btn variant="flat" @click="settle(true)">Load the job and make them again</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.steps {
  margin-top: 10px;
  padding-left: 12px;
  border-left: 3px solid var(--sea);
  font-weight: 500;
}
</style>
