<script setup lang="ts">
import { BLANK_SHEET } from '@isola/core';
import { ref } from 'vue';

/** A job that is drawn from nothing: its name first, then what it is sewn on. */
const emit = defineEmits<{ take: [file: File] }>();
const isOpen = ref(false);
const name = ref('');

function begin(): void {
  const called = name.value.trim();
  if (called === '') return;
  isOpen.value = false;
  name.value = '';
  emit('take', new File([BLANK_SHEET], `${called}.csv`, { type: 'text/csv' }));
}
</script>

<template>
  <v-btn size="default" variant="outlined" @click="isOpen = true">Draw anew</v-btn>
  <v-dialog v-model="isOpen" max-width="420" aria-label="Draw from nothing">
    <v-card title="Draw from nothing">
      <v-card-text>
        <form id="draw-anew" @submit.prevent="begin">
          <v-text-field v-model="name" label="What it is called" maxlength="100" autofocus />
        </form>
        <p class="muted">Next you say what it is sewn on. Then it is drawn on Rework, under Shape.</p>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="outlined" @click="isOpen = false">Not now</v-btn>
        <v-btn color="primary" type="submit" form="draw-anew" :disabled="name.trim() === ''">Begin</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
