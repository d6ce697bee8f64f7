<script setup lang="ts">
import { useShop } from '../../stores/shop.ts';

/** Who changes it, which the browser remembers, and why. */
const why = defineModel<string>({ required: true });
const store = useShop();
</script>

<template>
  <div class="signature">
    <v-text-field v-model="store.who" label="Who" maxlength="200" />
    <v-text-field v-model="why" label="Why" maxlength="2000" placeholder="a sample, a complaint…" persistent-placeholder />
  </div>
</template>

<style scoped>
.signature {
  display: grid;
  grid-template-columns: minmax(0, 0.6fr) minmax(0, 1fr);
  gap: 10px;
}
</style>
