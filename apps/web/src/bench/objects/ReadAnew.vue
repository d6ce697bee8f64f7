<script setup lang="ts">
import type { Rereading } from '@isola/core';
import { nextTick, ref, shallowRef, useTemplateRef } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';

/** Recognizes objects anew, or all of the design where none is named; says what that would change, beside the cloth, before it does. */
const props = defineProps<{ ids?: readonly string[] }>();
const bench = useBench();
const notices = useNotices();
const found = shallowRef<Rereading>();
const isWorking = ref(false);
const said = useTemplateRef<HTMLElement>('said');
/** So many changes are said one by one. */
const MOST_SAID = 12;

async function look(): Promise<void> {
  isWorking.value = true;
  try {
    const rereading = await bench.propose.readAnew(props.ids);
    if (rereading === undefined || rereading.operations.length === 0)
      notices.say('Nothing would change', 'Read anew it is told as it is now. Objects sewn from a spec are known and stay.');
    else {
      found.value = rereading;
      await nextTick();
      said.value?.scrollIntoView?.({ block: 'nearest' });
    }
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
  <section v-if="found" ref="said" class="said" aria-label="What reading anew would change">
    <h3>What reading anew would change</h3>
    <ul>
      <li v-for="change in found.changes.slice(0, MOST_SAID)" :key="change">{{ change }}</li>
    </ul>
    <p v-if="found.changes.length > MOST_SAID" class="muted">and {{ found.changes.length - MOST_SAID }} more</p>
    <p class="muted">No stitch changes. It is one step, which can be undone.</p>
    <div class="acts">
      <v-btn @click="make">Read it so</v-btn>
      <v-btn variant="text" @click="found = undefined">Leave it</v-btn>
    </div>
  </section>
</template>

<style scoped>
.said {
  width: 100%;
  margin-top: 10px;
  padding: 10px 12px;
  border-left: 3px solid var(--sea);
  background: var(--sea-soft);
}

h3 {
  font-size: 13px;
  font-weight: 600;
}

ul {
  padding: 4px 0 4px 16px;
  list-style: disc;
}

.acts {
  display: flex;
  gap: 6px;
  margin-top: 8px;
}
</style>
