<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue';

const KEYS: readonly (readonly [string, string])[] = [
  ['Space', 'replay, pause'],
  ['← →', 'one stitch back, on'],
  ['Shift ← →', 'ten stitches'],
  ['Alt ← →', 'stretch before, after; on Rework the object before, after'],
  ['N, P', 'next finding, the one before'],
  ['T', 'try the repair of the selected finding'],
  ['Enter', 'accept what is being tried'],
  ['K', 'keep the selected finding as it is'],
  ['1 2 3 4 5 6', 'thread, penetrations, cover map, paths, directions, layers'],
  ['A, C, U, V', 'on Rework: everything, cover, underlay, travel and ties'],
  ['J, S', 'on Rework: join the object with the next, split it at this stitch'],
  ['0', 'fit the design'],
  ['+ −', 'nearer, farther'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, do again'],
  ['Escape', 'one step back: put back, let go, whole design'],
  ['?', 'this sheet'],
];
const isOpen = ref(false);

function onKey(event: KeyboardEvent): void {
  const isTyping = event.target instanceof HTMLElement && event.target.closest('input, textarea') !== null;
  if (event.key === '?' && !isTyping) isOpen.value = !isOpen.value;
}

onMounted(() => window.addEventListener('keydown', onKey));
onBeforeUnmount(() => window.removeEventListener('keydown', onKey));
</script>

<template>
  <v-dialog v-model="isOpen" max-width="520">
    <v-card title="Keys on the bench">
      <v-card-text>
        <dl>
          <template v-for="[keys, what] in KEYS" :key="keys">
            <dt>
              <kbd>{{ keys }}</kbd>
            </dt>
            <dd>{{ what }}</dd>
          </template>
        </dl>
      </v-card-text>
      <v-card-actions><v-spacer /><v-btn variant="flat" @click="isOpen = false">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 5px 18px;
}

kbd {
  font: inherit;
  font-weight: 600;
}
</style>
