<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api } from '../../api/client.ts';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';

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

/** The day as the calendar of this machine has it; the server knows it as YYYY-MM-DD. */
const dueDay = computed(() => (due.value === '' ? null : new Date(`${due.value}T00:00:00`)));
const sayDate = (day: unknown): string =>
  day instanceof Date ? day.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }) : '';

function setDue(day: unknown): void {
  if (day !== null && !(day instanceof Date)) return;
  const two = (v: number): string => String(v).padStart(2, '0');
  due.value = day === null ? '' : `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
  void save();
}

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
    <v-date-input :model-value="dueDay" label="Due" :display-format="sayDate" @update:model-value="setDue" />
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
