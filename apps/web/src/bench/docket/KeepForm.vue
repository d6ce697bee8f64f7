<script setup lang="ts">
import type { Finding } from '@isola/core';
import { onMounted, ref, useTemplateRef } from 'vue';

/** Why a finding is kept as it is, asked for in its place in the docket, so that the cloth stays in sight. */
const props = defineProps<{ finding: Finding; place?: string | undefined }>();
const emit = defineEmits<{ keep: [reason: string]; close: [] }>();

/** What people say most; any other reason can be written. */
const REASONS = ['The customer wants it so', 'Sewn before and sewed well', 'Meant by the artwork', 'Not worth the change on this order'];
const reason = ref('');
const form = useTemplateRef<HTMLFormElement>('form');

onMounted(() => form.value?.scrollIntoView?.({ block: 'nearest' }));

function keep(): void {
  if (reason.value.trim() !== '') emit('keep', reason.value.trim());
}
</script>

<template>
  <form ref="form" class="keep" aria-label="Keep it as it is" @submit.prevent="keep" @keydown.esc.stop="emit('close')">
    <h3>Keep it as it is</h3>
    <p v-if="props.finding.places.length > 1" class="muted">
      {{
        place === undefined
          ? `At all ${finding.places.length} places as they are now; new ones will be found.`
          : 'At the one place that is chosen; the others stay open.'
      }}
    </p>
    <div class="reasons">
      <button v-for="text in REASONS" :key="text" type="button" :aria-pressed="reason === text" @click="reason = text">{{ text }}</button>
    </div>
    <v-textarea v-model="reason" label="Because…" rows="2" auto-grow autofocus maxlength="1000" bg-color="surface" />
    <div class="acts">
      <v-btn type="submit" :disabled="reason.trim() === ''">Keep it</v-btn>
      <v-btn variant="text" @click="emit('close')">Cancel</v-btn>
    </div>
  </form>
</template>

<style scoped>
.keep {
  margin-top: 10px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}

h3 {
  font-size: 13.5px;
  font-weight: 600;
}

.reasons {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  margin: 8px 0 12px;
}

.reasons button {
  padding: 2px 9px;
  border: 1px solid var(--line);
  border-radius: 12px;
  background: var(--card);
  color: inherit;
  font: inherit;
  font-size: 12px;
  cursor: pointer;
}

.reasons button:hover,
.reasons button[aria-pressed='true'] {
  border-color: var(--sea);
  color: var(--sea);
}

.acts {
  display: flex;
  gap: 6px;
  margin-top: 8px;
}
</style>
