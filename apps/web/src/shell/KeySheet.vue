<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue';
import { actionOf, keyLines } from '../bench/actions.ts';

const isOpen = ref(false);

function onKey(event: KeyboardEvent): void {
  const isTyping = event.target instanceof HTMLElement && event.target.closest('input, textarea') !== null;
  if (actionOf(event) === 'sheet' && !isTyping) isOpen.value = !isOpen.value;
}

onMounted(() => window.addEventListener('keydown', onKey));
onBeforeUnmount(() => window.removeEventListener('keydown', onKey));
</script>

<template>
  <v-dialog v-model="isOpen" max-width="520" aria-label="Keys on the bench">
    <v-card title="Keys on the bench">
      <v-card-text>
        <dl>
          <template v-for="{ keys, says } in keyLines()" :key="keys">
            <dt>
              <kbd>{{ keys }}</kbd>
            </dt>
            <dd>{{ says }}</dd>
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
