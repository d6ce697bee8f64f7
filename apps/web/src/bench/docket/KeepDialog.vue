<script setup lang="ts">
import type { Finding } from '@isola/core';
import { computed, ref, watch } from 'vue';

const props = defineProps<{ finding: Finding | undefined; place?: string | undefined }>();
const emit = defineEmits<{ keep: [reason: string]; close: [] }>();

/** What people say most; any other reason can be written. */
const REASONS = ['The customer wants it so', 'Sewn before and sewed well', 'Meant by the artwork', 'Not worth the change on this order'];
const reason = ref('');
const isOpen = computed({ get: () => props.finding !== undefined, set: (value) => !value && emit('close') });

watch(
  () => props.finding?.key,
  () => (reason.value = ''),
);
</script>

<template>
  <v-dialog v-model="isOpen">
    <v-card v-if="finding" class="keep" title="Keep it as it is">
      <v-card-text>
        <p class="what">{{ finding.message }}</p>
        <p v-if="finding.places.length > 1" class="muted mb-3">
          {{
            place === undefined
              ? `At all ${finding.places.length} places as they are now; new ones will be found.`
              : 'At the one place that is chosen; the others stay open.'
          }}
        </p>
        <div class="reasons">
          <v-btn v-for="text in REASONS" :key="text" variant="outlined" @click="reason = text">{{ text }}</v-btn>
        </div>
        <v-textarea v-model="reason" label="Because…" rows="2" auto-grow autofocus maxlength="1000" />
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="emit('close')">Cancel</v-btn>
        <v-btn variant="flat" :disabled="reason.trim() === ''" @click="emit('keep', reason.trim())">Keep it</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.what {
  margin-bottom: 12px;
  font-weight: 500;
}

.reasons {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-bottom: 14px;
}
</style>
