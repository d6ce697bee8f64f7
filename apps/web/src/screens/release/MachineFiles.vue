<script setup lang="ts">
import { encodeLayout, placeProgram } from '@isola/core';
import { mdiDownload } from '@mdi/js';
import { computed } from 'vue';
import { api } from '../../api/client.ts';
import { useBench } from '../../stores/bench.ts';
import { useShop } from '../../stores/shop.ts';

/** Files of the shop's own machines, by their layouts, each with what is said otherwise in it. */
defineProps<{ mayLeave: boolean }>();
const bench = useBench();
const shop = useShop();

const files = computed(() => {
  const { program, target } = bench.now!.view;
  const placed = placeProgram(program, target.place);
  return (shop.shop?.layouts ?? []).map((record) => {
    const written = encodeLayout(placed, record.layout);
    return { record, notes: written.ok ? written.value.notes : [], refused: written.ok ? undefined : written.error };
  });
});
</script>

<template>
  <li v-for="{ record, notes, refused } in files" :key="record.id">
    <span>
      <b class="format">{{ record.name }}</b>
      <small v-if="refused" class="refused">cannot be written: {{ refused }}</small>
      <small v-else class="muted">{{
        notes.length === 0 ? 'by its layout; nothing is said otherwise than in the design' : notes.join(' ')
      }}</small>
    </span>
    <v-btn
      :href="mayLeave && !refused ? api.machineFileAddress(bench.job!.id, record.id) : undefined"
      :disabled="!mayLeave || refused !== undefined"
      download
      :prepend-icon="mdiDownload"
      >Download {{ record.extension.toUpperCase() }}</v-btn
    >
  </li>
</template>

<style scoped>
.format {
  display: inline-block;
}

.format::first-letter {
  text-transform: uppercase;
}

li {
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}

small {
  display: block;
  font-size: 12px;
}

.refused {
  color: var(--stop);
}
</style>
