<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted } from 'vue';
import { useBench } from '../../stores/bench.ts';
import type { KeptPlaces } from '../../stores/gatherKept.ts';
import { useHistory } from '../../stores/history.ts';
import { useSession } from '../../stores/session.ts';

/** A finding that was kept as it is: why and, where people sign in, by whom and when. */
const props = defineProps<{ kept: KeptPlaces }>();
const bench = useBench();
const history = useHistory();
const session = useSession();

let stop: (() => void) | undefined;
onMounted(() => {
  if (session.hasAccounts) stop = history.show();
});
onBeforeUnmount(() => stop?.());

const signed = computed(() => {
  const { title, reason } = props.kept;
  const name = `keep: ${title}`.slice(0, 200);
  const step = history.steps.findLast((one) => one.name === name && one.reason === reason);
  if (step?.who == null || step.at === '') return '';
  return `${step.who}, ${new Date(step.at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })}`;
});
</script>

<template>
  <li class="kept">
    <span class="muted">Kept: {{ kept.title }}</span>
    <em>{{ kept.reason }}</em>
    <span v-if="signed !== ''" class="muted signed">{{ signed }}</span>
    <v-btn variant="text" size="x-small" @click="bench.reopenFinding(kept.places, kept.title)">Look again</v-btn>
  </li>
</template>

<style scoped>
.kept {
  display: grid;
  grid-template-columns: 1fr auto;
  padding: 8px 14px 8px 18px;
  border-bottom: 1px solid var(--line-soft);
  font-size: 12.5px;
  background: var(--paper);
}

.kept em {
  grid-column: 1;
}

.kept .v-btn {
  grid-area: 1 / 2 / 3;
  align-self: center;
}

.signed {
  font-size: 12px;
}
</style>
