<script setup lang="ts">
import { mdiCalendarBlank } from '@mdi/js';
import { computed, ref } from 'vue';
import { useNotices } from '../../stores/notices.ts';
import { readDay } from './readDay.ts';

/** A day (YYYY-MM-DD; empty: none), written as people do or chosen from a calendar. */
defineProps<{ label: string }>();
const day = defineModel<string>({ required: true });
const notices = useNotices();
const isOpen = ref(false);

const date = computed(() => (day.value === '' ? undefined : new Date(`${day.value}T00:00:00`)));
const text = computed(() => date.value?.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }) ?? '');

function write(event: Event): void {
  const field = event.target as HTMLInputElement;
  const read = field.value.trim() === '' ? '' : readDay(field.value, new Date());
  if (read === undefined) {
    notices.complain(new Error(`“${field.value}” is no day; write it as 6 December or 6 Dec 2026.`));
    field.value = text.value;
  } else day.value = read;
}

function choose(chosen: unknown): void {
  if (!(chosen instanceof Date)) return;
  const two = (v: number): string => String(v).padStart(2, '0');
  day.value = `${chosen.getFullYear()}-${two(chosen.getMonth() + 1)}-${two(chosen.getDate())}`;
  isOpen.value = false;
}
</script>

<template>
  <v-text-field :model-value="text" :label="label" placeholder="6 December" @change="write">
    <template #append-inner>
      <v-menu v-model="isOpen" :close-on-content-click="false" location="bottom end">
        <template #activator="{ props }">
          <v-btn v-bind="props" icon variant="text" size="x-small" :aria-label="`${label}: choose the day`">
            <v-icon :icon="mdiCalendarBlank" />
          </v-btn>
        </template>
        <v-date-picker :model-value="date" @update:model-value="choose" />
      </v-menu>
    </template>
  </v-text-field>
</template>
