<script setup lang="ts">
import type { Band } from '@isola/core';
import { computed } from 'vue';

/** One value of a spec with the band that is right for this cloth and thread drawn behind it. */
const props = defineProps<{
  label: string;
  value: number;
  before: number | undefined;
  unit: string;
  min: number;
  max: number;
  step: number;
  band?: Band | undefined;
  /** Of the scale: even to the eye where values go from fine to coarse. */
  isRatio?: boolean;
}>();
const emit = defineEmits<{ change: [value: number] }>();

const decimals = computed(() => (props.step >= 1 ? 0 : props.step >= 0.1 ? 1 : 2));
const isOff = computed(() => props.band !== undefined && (props.value < props.band.low - 0.005 || props.value > props.band.high + 0.005));

/** Place of a value on the scale, 0 to 1. */
function place(value: number): number {
  const held = Math.max(props.min, Math.min(props.max, value));
  return props.isRatio ? Math.log(held / props.min) / Math.log(props.max / props.min) : (held - props.min) / (props.max - props.min);
}

function valueAt(share: number): number {
  const raw = props.isRatio ? props.min * (props.max / props.min) ** share : props.min + share * (props.max - props.min);
  return Math.round(raw / props.step) * props.step;
}

function slide(event: Event): void {
  const share = Number((event.target as HTMLInputElement).value) / 1000;
  emit('change', Number(valueAt(share).toFixed(3)));
}

function type(event: Event): void {
  const field = event.target as HTMLInputElement;
  const value = Number(field.value);
  if (field.value === '' || !Number.isFinite(value)) field.value = props.value.toFixed(decimals.value);
  else emit('change', Math.max(props.min, Math.min(props.max, value)));
}
</script>

<template>
  <div class="value" :class="{ off: isOff }">
    <label>
      <span class="name">{{ label }}</span>
      <span v-if="before !== undefined && Math.abs(before - value) > 0.004" class="was number">{{ before.toFixed(decimals) }} →</span>
      <input class="figure number" type="number" :min="min" :max="max" :step="step" :value="value.toFixed(decimals)" @change="type" />
      <span class="unit muted">{{ unit }}</span>
    </label>
    <div class="scale">
      <i
        v-if="band"
        class="band"
        :style="{ left: `${100 * place(band.low)}%`, width: `${Math.max(1.5, 100 * (place(band.high) - place(band.low)))}%` }"
      />
      <i v-if="band" class="best" :style="{ left: `${100 * place(band.best)}%` }" />
      <input
        type="range"
        min="0"
        max="1000"
        :value="Math.round(1000 * place(value))"
        :aria-label="label"
        :aria-valuetext="`${value.toFixed(decimals)} ${unit}`"
        @input="slide"
      />
    </div>
    <p v-if="isOff" class="why">Right here: {{ band!.low.toFixed(decimals) }} to {{ band!.high.toFixed(decimals) }}; {{ band!.why }}.</p>
  </div>
</template>

<style scoped>
.value {
  padding: 7px 0 5px;
  border-top: 1px solid var(--line-soft);
}

label {
  display: flex;
  gap: 5px;
  align-items: baseline;
}

.name {
  flex: 1;
  color: var(--ink-2);
}

.was {
  color: var(--ink-2);
  font-size: 12px;
}

.figure {
  width: 62px;
  padding: 2px 5px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  font-weight: 600;
  text-align: right;
  appearance: textfield;
}

.figure::-webkit-inner-spin-button {
  appearance: none;
}

.off .figure {
  border-color: var(--fix);
  color: var(--fix);
}

.unit {
  width: 22px;
  font-size: 12px;
}

.scale {
  position: relative;
  height: 20px;
  margin-right: 27px;
}

.scale::before {
  content: '';
  position: absolute;
  inset: 8px 0;
  background: var(--line-soft);
  border-radius: 2px;
}

.band {
  position: absolute;
  top: 5px;
  height: 10px;
  background: #a9cfc6;
  border-radius: 3px;
}

.best {
  position: absolute;
  top: 3px;
  width: 2px;
  height: 14px;
  margin-left: -1px;
  background: var(--sea);
}

input[type='range'] {
  position: absolute;
  inset: 0 -7px;
  width: calc(100% + 14px);
  height: 20px;
  margin: 0;
  background: none;
  appearance: none;
  cursor: ew-resize;
}

input[type='range']::-webkit-slider-thumb {
  width: 14px;
  height: 18px;
  background: var(--card);
  border: 2px solid var(--ink);
  border-radius: 4px;
  appearance: none;
}

input[type='range']::-moz-range-thumb {
  width: 10px;
  height: 14px;
  background: var(--card);
  border: 2px solid var(--ink);
  border-radius: 4px;
}

.off input[type='range']::-webkit-slider-thumb {
  border-color: var(--fix);
}

.why {
  margin: 1px 0 2px;
  color: var(--fix);
  font-size: 12px;
}
</style>
