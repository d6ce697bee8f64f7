<script setup lang="ts">
import { ref, watch } from 'vue';
import { api } from '../../api/client.ts';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import DayField from './DayField.vue';

const bench = useBench();
const notices = useNotices();
const name = ref('');
const customer = ref('');
const due = ref('');

watch(
  () => bench.job?.id,
  () => {
    name.value = bench.job?.name ?? '';
    customer.value = bench.job?.customer ?? '';
    due.value = bench.job?.due ?? '';
  },
  { immediate: true },
);

async function save(): Promise<void> {
  const job = bench.job;
  if (job === undefined) return;
  if (name.value.trim() === '') {
    name.value = job.name;
    return;
  }
  if (name.value === job.name && customer.value === job.customer && due.value === (job.due ?? '')) return;
  try {
    const changed = await api.changeDetails(job.id, {
      detailsVersion: job.detailsVersion,
      name: name.value,
      customer: customer.value,
      due: due.value === '' ? null : due.value,
    });
    bench.job = { ...job, ...changed };
  } catch (error) {
    notices.complain(error);
  }
}
</script>

<template>
  <section class="details" aria-label="The job">
    <v-text-field v-model="name" class="wide" label="Job" maxlength="200" @change="save" />
    <v-text-field v-model="customer" label="Customer" maxlength="200" @change="save" />
    <DayField v-model="due" label="Due" @update:model-value="save" />
  </section>
</template>

<style scoped>
.details {
  display: grid;
  grid-template-columns: 1.3fr 1fr;
  gap: 11px 9px;
}

.wide {
  grid-column: 1 / 3;
}
</style>
