<script setup lang="ts">
import { type Finding, type FindingChange, findRule, isWorse } from '@isola/core';
import { computed } from 'vue';
import { useObjects } from '../../stores/objects.ts';
import { sayPrice } from '../figures/sayFigures.ts';
import KeepForm from './KeepForm.vue';
import SeverityMark from './SeverityMark.vue';
import { useViewing } from '../../stores/viewing.ts';

const props = defineProps<{
  finding: Finding;
  number: number;
  isOpen: boolean;
  isTried: boolean;
  /** What trying it does to the findings. */
  changes?: readonly FindingChange[] | undefined;
  /** Why some of it cannot be repaired. */
  refused?: readonly string[];
  isBusy: boolean;
  isChecked: boolean;
  /** Whether the reason is being asked for why it is kept. */
  isKept: boolean;
}>();
defineEmits<{
  select: [];
  try: [];
  accept: [];
  drop: [];
  ask: [];
  keep: [reason: string];
  leave: [];
  check: [isChecked: boolean];
}>();

const objects = useObjects();
/** The first few objects that it concerns, by name, and how many more. */
const NAMED = 2;
const concerned = computed(() => {
  const names = objects.namesOf(props.finding);
  if (names.length === 0) return '';
  const more = names.length - NAMED;
  return `In ${names.slice(0, NAMED).join('; ')}${more > 0 ? ` and ${more} more` : ''}`;
});

const viewing = useViewing();
const isMany = computed(() => props.finding.places.length > 1);
const at = computed(() => props.finding.places.findIndex((place) => place.key === viewing.selectedPlace));

/** Goes to the place before or after; from all of them to the first or last. */
function step(by: 1 | -1): void {
  const { places } = props.finding;
  const next = at.value < 0 ? (by > 0 ? 0 : places.length - 1) : (at.value + by + places.length) % places.length;
  viewing.selectedPlace = places[next]!.key;
}

const rule = computed(() => findRule(props.finding.rule));
/** What trying it leaves of it, and what else it changes, worse first. */
const outcome = computed(() => {
  const { changes, finding } = props;
  if (changes === undefined) return undefined;
  const own = changes.find((change) => change.rule === finding.rule);
  // What concerns the whole design is one decision, however many places show it.
  const places = new Set(finding.places.map(({ key }) => key)).size;
  const left = places - (own?.gone ?? 0);
  const others = changes.filter((change) => change.rule !== finding.rule);
  return {
    own:
      own === undefined
        ? 'It changes nothing of this.'
        : own.after === undefined
          ? 'All of it is gone then.'
          : left <= 0
            ? 'Less of it then, at other places.'
            : `${own.gone} of ${places} are gone then.`,
    worse: others
      .filter(isWorse)
      .map(({ added, rule, message }) => (added > 0 ? `${added} × ${findRule(rule).title.toLowerCase()}` : message)),
    gone: others
      .filter((change) => !isWorse(change) && change.gone > 0)
      .map(({ gone, rule }) => `${gone} × ${findRule(rule).title.toLowerCase()}`),
  };
});
const price = computed(() => sayPrice(props.finding.cost));
/** Only what a repair here would save is a gain; a price without one says what the fault costs. */
const isGain = computed(
  () =>
    props.finding.fix !== undefined &&
    (props.finding.cost.seconds > 0 || (Math.abs(props.finding.cost.seconds) < 1 && props.finding.cost.stitches > 0)),
);
const figure = computed(() => {
  const { measured, limit, unit } = props.finding;
  const say = (value: number): string => (Number.isInteger(value) ? String(value) : value.toFixed(unit === 'K' ? 1 : 2));
  return `${say(measured)} ${unit}, limit ${say(limit)}`;
});
</script>

<template>
  <li class="finding" :class="{ open: isOpen }">
    <button type="button" class="head" :aria-expanded="isOpen" @click="$emit('select')">
      <SeverityMark :severity="finding.severity" :number="number" />
      <span class="message">{{ finding.message }}</span>
      <span class="price number" :class="{ gain: isGain }">{{ price }}</span>
    </button>
    <input
      v-if="finding.fix"
      class="check"
      type="checkbox"
      :checked="isChecked"
      :aria-label="`Choose finding ${number} for repair together with others`"
      @change="$emit('check', ($event.target as HTMLInputElement).checked)"
    />
    <div v-if="isOpen" class="body">
      <p class="reason">{{ finding.reason }}</p>
      <p v-if="concerned" class="concerned muted">{{ concerned }}</p>
      <p class="figure number">
        <span>{{ figure }}</span>
        <span class="muted">{{ rule.title }} · {{ rule.source }}</span>
      </p>
      <p v-if="isMany" class="places">
        <button type="button" aria-label="The place before" @click="step(-1)">‹</button>
        <span class="number">{{ at < 0 ? `all ${finding.places.length} places` : `place ${at + 1} of ${finding.places.length}` }}</span>
        <button type="button" aria-label="The next place" @click="step(1)">›</button>
        <button v-if="at >= 0" type="button" class="all" @click="viewing.selectedPlace = undefined">all again</button>
      </p>
      <p v-if="!finding.fix" class="advice">{{ finding.advice }}</p>
      <div v-if="isTried && outcome" class="outcome" role="status">
        <p>
          {{ outcome.own }}<template v-if="outcome.gone.length > 0"> Gone with it: {{ outcome.gone.join(', ') }}.</template>
        </p>
        <p v-if="outcome.worse.length > 0" class="loss">It brings: {{ outcome.worse.join(', ') }}.</p>
        <p v-for="why in (refused ?? []).slice(0, 3)" :key="why" class="muted">Left: {{ why }}</p>
      </div>
      <KeepForm v-if="isKept" :finding="finding" :place="viewing.selectedPlace" @keep="$emit('keep', $event)" @close="$emit('leave')" />
      <div v-else class="actions">
        <template v-if="isTried">
          <v-btn :disabled="isBusy" @click="$emit('accept')">Accept</v-btn>
          <v-btn variant="outlined" data-own-enter :disabled="isBusy" @click="$emit('drop')">Put back</v-btn>
        </template>
        <v-btn v-else-if="finding.fix" :disabled="isBusy" @click="$emit('try')">{{
          at < 0 ? `Try: ${finding.fix.toLowerCase()}` : 'Try it at this place'
        }}</v-btn>
        <v-btn v-if="!isTried && concerned" variant="text" :to="{ name: 'rework' }"
          >Rework {{ isMany && at < 0 ? 'the first' : 'this' }}</v-btn
        >
        <v-btn v-if="!isTried" variant="text" :disabled="isBusy" @click="$emit('ask')">{{
          at < 0 ? 'Keep, because…' : 'Keep this place, because…'
        }}</v-btn>
      </div>
    </div>
  </li>
</template>

<style scoped>
.finding {
  position: relative;
  border-bottom: 1px solid var(--line-soft);
}

.finding.open {
  background: var(--sea-soft);
}

.head {
  display: grid;
  grid-template-columns: 24px 1fr auto;
  gap: 9px;
  width: 100%;
  padding: 9px 34px 9px 14px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}

.head:hover {
  background: color-mix(in srgb, var(--sea-soft) 55%, transparent);
}

.head:focus-visible {
  outline-offset: -2px;
}

.message {
  font-weight: 500;
  line-height: 1.35;
}

.open .message {
  font-weight: 600;
}

.price {
  font-weight: 600;
  color: var(--ink-2);
}

.price.gain {
  color: var(--gain);
}

.check {
  position: absolute;
  top: 12px;
  right: 13px;
}

.body {
  padding: 0 14px 12px 47px;
}

.reason::first-letter {
  text-transform: uppercase;
}

.figure {
  display: flex;
  flex-direction: column;
  margin-top: 5px;
  font-size: 12px;
}

.places {
  display: flex;
  align-items: center;
  gap: 4px;
  margin-top: 6px;
  font-size: 12px;
}

.places button {
  min-width: 24px;
  padding: 1px 6px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--card);
  color: inherit;
  font: inherit;
  line-height: 1.4;
  cursor: pointer;
}

.places .all {
  border-color: transparent;
  background: none;
  color: var(--sea);
}

.advice {
  margin-top: 6px;
  padding-left: 9px;
  border-left: 3px solid var(--sea);
}

.outcome {
  margin-top: 7px;
  font-size: 12.5px;
}

.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 9px;
}
</style>
