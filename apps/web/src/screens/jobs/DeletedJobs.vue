<script setup lang="ts">
import { KEPT_DAYS } from '@isola/contract';
import { computed } from 'vue';
import { useJobs } from '../../stores/jobs.ts';
import { useNotices } from '../../stores/notices.ts';
import { sayDay } from './sayDue.ts';

/** Jobs that were deleted and can be put back. */
const store = useJobs();
const notices = useNotices();
const count = computed(() => (store.deleted.length === 1 ? '1 deleted job' : `${store.deleted.length} deleted jobs`));

async function putBack(id: string, name: string): Promise<void> {
  try {
    await store.putBack(id);
    notices.say(`${name} is back`);
  } catch (error) {
    notices.complain(error);
  }
}
</script>

<template>
  <details v-if="store.deleted.length > 0" class="deleted">
    <summary>{{ count }}, kept for {{ KEPT_DAYS }} days</summary>
    <ul aria-label="Deleted jobs">
      <li v-for="job in store.deleted" :key="job.id">
        <b>{{ job.name }}</b>
        <span class="muted">{{ job.customer }}</span>
        <span class="muted">deleted {{ sayDay(job.deletedAt) }}</span>
        <v-btn variant="outlined" size="small" :aria-label="`Put ${job.name} back`" @click="putBack(job.id, job.name)">Put back</v-btn>
      </li>
    </ul>
  </details>
</template>

<style scoped>
.deleted {
  padding: 4px 24px 28px;
  font-size: 13px;
}

summary {
  width: fit-content;
  cursor: pointer;
  color: var(--ink-2);
}

li {
  display: grid;
  grid-template-columns: minmax(160px, 260px) minmax(120px, 240px) 160px auto;
  gap: 16px;
  align-items: center;
  justify-content: start;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
</style>
