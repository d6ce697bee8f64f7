<script setup lang="ts">
import { defaultTarget, FOLLOWS, type Rule } from '@isola/core';

/** A rule with its reason, limit and source; the limit is changed here where it is the rulebook's own. */
defineProps<{ rule: Rule; limit: number | undefined; isOff: boolean; problem: string | undefined }>();
const emit = defineEmits<{ limit: [text: string]; judge: [isJudged: boolean] }>();
const reference = defaultTarget();

const repairOf = ({ repair, mend, retarget }: Rule): string => {
  const ways = [repair?.name, mend, retarget?.name].filter((way) => way !== undefined);
  return ways.length === 0 ? 'Repaired by hand.' : `Repair: ${ways.join(', or ')}.`;
};

function sayUsual(rule: Rule): string {
  const limit = rule.limit(reference);
  if (!Number.isFinite(limit)) return 'none';
  return `${Number(limit.toFixed(2))} ${rule.unit}`;
}
</script>

<template>
  <article :class="{ off: isOff }">
    <div class="text">
      <h3>{{ rule.title }}</h3>
      <p>{{ rule.why }}</p>
      <p class="muted">Measures {{ rule.measures }}. Source: {{ rule.source }}. {{ repairOf(rule) }}</p>
    </div>
    <div class="limit number">
      <label v-if="rule.follows === undefined">
        <input
          type="number"
          step="any"
          :aria-label="`Limit of ${rule.title}, ${rule.unit}`"
          :placeholder="String(Number(rule.limit(reference).toFixed(2)))"
          :value="limit ?? ''"
          @change="emit('limit', ($event.target as HTMLInputElement).value)"
        />
        {{ rule.unit }}
      </label>
      <p v-else :title="`It ${FOLLOWS[rule.follows]}.`">
        {{ sayUsual(rule) }}<span v-if="rule.follows !== 'itself'" class="muted"> by the {{ rule.follows }}</span>
      </p>
      <p v-if="limit !== undefined" class="muted">usual {{ sayUsual(rule) }}</p>
      <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
      <label class="judged"
        ><input
          type="checkbox"
          :checked="!isOff"
          :aria-label="`Judge by ${rule.title}`"
          @change="emit('judge', ($event.target as HTMLInputElement).checked)"
        />
        judged</label
      >
    </div>
  </article>
</template>

<style scoped>
article {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 190px;
  gap: 24px;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}

.off .text {
  opacity: 0.55;
}

h3 {
  font-size: 14.5px;
  font-weight: 600;
}

.text .muted {
  font-size: 12.5px;
}

.limit {
  display: grid;
  gap: 3px;
  align-content: start;
}

.limit input[type='number'] {
  width: 78px;
  padding: 3px 7px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  color: var(--ink);
  font: inherit;
  text-align: right;
}

.limit input[type='checkbox'] {
  margin: 0 4px 0 0;
}

.judged {
  color: var(--ink-2);
  font-size: 12.5px;
}

.bad {
  color: var(--stop);
  font-size: 12.5px;
}
</style>
