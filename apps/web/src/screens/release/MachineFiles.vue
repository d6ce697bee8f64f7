<script setup lang="ts">
import { encodeLayout, placeProgram } from '@isola/core';
import { computed } from 'vue';
import { api } from '../../api/client.ts';
import { useBench } from '../../stores/bench.ts';
import { useShop } from '../../stores/shop.ts';
import FileLine from './FileLine.vue';

/** Files of the shop's own machines, by their layouts, each with what is said otherwise in it. */
defineProps<{ mayLeave: boolean }>();
const bench = useBench();
const shop = useShop();

const files = computed(() => {
  const { program, target } = bench.now!.view;
  const placed = placeProgram(program, target.place);
  return (shop.shop?.layouts ?? []).map(({ id, name, extension, layout }) => {
    const written = encodeLayout(placed, layout);
    if (!written.ok) return { id, name, extension, isBad: true, note: `cannot be written: ${written.error}` };
    const { notes } = written.value;
    return { id, name, extension, isBad: false, note: notes.join(' ') || 'by its layout; nothing is said otherwise than in the design' };
  });
});
</script>

<template>
  <FileLine
    v-for="file in files"
    :key="file.id"
    :name="file.name"
    :note="file.note"
    :is-bad="file.isBad"
    :ending="file.extension"
    :address="api.machineFileAddress(bench.job!.id, file.id)"
    :is-disabled="!mayLeave || file.isBad"
  />
</template>
