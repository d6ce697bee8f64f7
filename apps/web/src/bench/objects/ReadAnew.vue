<script setup lang="ts">
import type { Rereading } from '@isola/core';
import { ref, shallowRef } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';

/** Recognizes objects anew, or all of the design where none is named; says what that would change before it does. */
const props = defineProps<{ ids?: readonly string[] }>();
const bench = useBench();
const notices = useNotices();
const found = shallowRef<Rereading>();
const isWorking = ref(false);
/** So many changes are said one by one. */
const MOST_SAID = 12;

async function look(): Promise<void> {
  isWorking.value = true;
  try {
    const rereading = await bench.propose.readAnew(props.ids);
    if (rereading === undefined || rereading.operations.length === 0)
      notices.say('Nothing would change', 'Read anew it is told as it is now. Objects sewn from a spec are known and stay.');
    else found.value = rereading;
  } catch (error) {
    notices.complain(error);
  } finally {
    isWorking.value = false;
  }
}

async function make(): Promise<void> {
  const operations = found.value?.operations ?? [];
  found.value = undefined;
  try {
    await bench.perform(props.ids === undefined ? 'read the file anew' : 'read anew', { id: 'sequence', operations: [...operations] });
  } catch (error) {
    notices.complain(error);
  }
}
</script>

<template>
  <v-btn variant="outlined" :loading="isWorking" @click="look">{{ ids === undefined ? 'Read the file anew' : 'Read anew' }}</v-btn>
  <v-dialog :model-value="found !== undefined" @update:model-value="found = undefined">
    <v-card v-if="found" title="What reading anew would change">
      <v-card-text>
        <ul>
          <li v-for="change in found.changes.slice(0, MOST_SAID)" :key="change">{{ change }}</li>
        </ul>
        <p v-if="found.changes.length > MOST_SAID" class="muted">and {{ found.changes.length - MOST_SAID }} more</p>
        <p class="muted mt-2">No stitch changes. It is one step, which can be undone.</p>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="found = undefined">Leave it</v-btn>
        <v-btn variant="flat" @click="make">Read it so</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
