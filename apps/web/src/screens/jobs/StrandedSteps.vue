<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue';
import { api } from '../../api/client.ts';
import { useJobs } from '../../stores/jobs.ts';
import { isHeld, useOutbox } from '../../stores/outbox.ts';
import { saveSteps } from '../../stores/stepsFile.ts';

/** Steps that are left of jobs that were deleted before all of them were saved. */
const emit = defineEmits<{ putBack: [jobId: string] }>();
const store = useJobs();
const outbox = useOutbox();

const held = computed(() => [...outbox.queues.values()].filter(({ state }) => isHeld(state)));
/** Jobs that are gone, of those that steps are left of; looked for again whenever the list is. */
const gone = shallowRef<ReadonlySet<string>>(new Set());
watch(
  [held, () => store.jobs],
  async () => {
    const asked = held.value;
    const versions = await Promise.all(asked.map(({ jobId }) => api.versionOf(jobId)));
    if (asked === held.value) gone.value = new Set(asked.flatMap(({ jobId }, k) => (versions[k] === null ? [jobId] : [])));
  },
  { immediate: true },
);
/** Steps whose job was deleted: nothing but these is left of it. */
const stranded = computed(() => held.value.filter(({ jobId }) => gone.value.has(jobId)));
</script>

<template>
  <div v-for="queue in stranded" :key="queue.jobId" class="refused" role="alert">
    <div>
      <b>{{ queue.jobName || 'A job' }} was deleted before all of its steps were saved</b>
      <p>{{ queue.entries.length === 1 ? '1 step is' : `${queue.entries.length} steps are` }} left of it in this browser.</p>
    </div>
    <span class="ways">
      <v-btn v-if="store.deleted.some((job) => job.id === queue.jobId)" variant="flat" @click="emit('putBack', queue.jobId)"
        >Put the job back</v-btn
      >
      <v-btn
        variant="outlined"
        @click="saveSteps({ job: queue.jobId, name: queue.jobName, version: queue.version, entries: [...queue.entries] })"
        >Save as a file</v-btn
      >
      <v-btn variant="text" @click="outbox.replace({ id: queue.jobId, name: queue.jobName }, 0, [])">Let them go</v-btn>
    </span>
  </div>
</template>

<style scoped>
.refused {
  display: flex;
  justify-content: space-between;
  align-items: flex-start;
  gap: 20px;
  padding: 12px 24px;
  background: #fbe9e4;
  border-bottom: 1px solid #e3b9ae;
}

.ways {
  display: flex;
  gap: 8px;
}
</style>
