<script setup lang="ts">
import type { PredictedGap } from '@isola/core';
import { computed } from 'vue';
import { CLOTH_VIEWS, type ClothViewKind } from '../../workers/clothProtocol.ts';
import { VIEW_NAMES } from '../actions.ts';
import { coverSteps } from './paintFigures.ts';
import { DIRECTION_COLORS, LEVEL_COLORS } from './paintObjects.ts';

const props = defineProps<{ maxCover: number; hasObjects: boolean; gaps?: readonly PredictedGap[] }>();
const kind = defineModel<ClothViewKind>({ required: true });
defineEmits<{ fit: []; zoom: [times: number] }>();

/** Layers and the prediction are of objects, so they are offered once these are known. */
const views = computed(() =>
  CLOTH_VIEWS.flatMap((name, k) => ((name !== 'layers' && name !== 'sewn') || props.hasObjects ? [{ name, key: k + 1 }] : [])),
);

const steps = computed(() => {
  const all = coverSteps(props.maxCover);
  const say = (to: number): string => (Number.isInteger(to) ? String(to) : to.toFixed(1));
  return all.map((step, k) => ({ ...step, words: step.isOver ? `over ${say(all[k - 1]!.to)}` : `to ${say(step.to)}` }));
});
</script>

<template>
  <div class="lens segments" role="group" aria-label="View of the cloth">
    <button
      v-for="{ name, key } in views"
      :key="name"
      type="button"
      :aria-pressed="kind === name"
      :title="`Key ${key}`"
      @click="kind = name"
    >
      {{ VIEW_NAMES[name] }}
    </button>
    <span class="gap" />
    <button type="button" title="Key 0" @click="$emit('fit')">Fit</button>
    <button type="button" title="True size" @click="$emit('zoom', 1)">1 : 1</button>
    <button type="button" title="Six times true size" @click="$emit('zoom', 6)">6 : 1</button>
  </div>
  <div v-if="kind === 'cover'" class="legend">
    <b>Cover, K</b>
    <span v-for="step in steps" :key="step.color" :class="{ over: step.isOver }"
      ><i :style="{ backgroundColor: step.color }" />{{ step.words }}</span
    >
    <span class="muted">1 = one closed layer · hatched: over this cloth's limit</span>
  </div>
  <div v-else-if="kind === 'paths'" class="legend">
    <span
      ><svg width="26" height="10"><path d="M1 5H25" stroke="currentColor" stroke-dasharray="4 3" /></svg>jump</span
    >
    <span>
      <svg width="12" height="12"><path d="M1.5 1.5h9v9h-9zM3 9l3-6M6 9l3-6" fill="none" stroke="#b0322a" /></svg>trim
    </span>
    <span
      ><svg width="10" height="12"><path d="M8 1H3v10h5" fill="none" stroke="currentColor" stroke-width="1.6" /></svg>entry</span
    >
    <span
      ><svg width="10" height="12"><path d="M2 1h5v10H2" fill="none" stroke="currentColor" stroke-width="1.6" /></svg>exit</span
    >
  </div>
  <div v-else-if="kind === 'directions'" class="legend">
    <b>Stitches run</b>
    <span v-for="(color, k) in DIRECTION_COLORS" :key="color"
      ><svg width="16" height="16" viewBox="-8 -8 16 16">
        <path d="M-7 0H7" :stroke="color" stroke-width="3" stroke-linecap="round" :transform="`rotate(${-30 * k})`" /></svg
      >{{ 30 * k }}°</span
    >
  </div>
  <div v-else-if="kind === 'layers'" class="legend">
    <b>Covers under it</b>
    <span v-for="(color, k) in LEVEL_COLORS" :key="color"
      ><i :style="{ backgroundColor: color }" />{{ k === LEVEL_COLORS.length - 1 ? `${k} and more` : k }}</span
    >
    <span class="muted">{{ hasObjects ? 'underlay and travel faint' : 'objects are not known yet' }}</span>
  </div>
  <div v-else-if="kind === 'sewn'" class="legend">
    <b>As the cloth will show it</b>
    <span class="muted">an estimate: ends of rows drawn in, outer rows pushed out</span>
    <span v-if="gaps && gaps.length > 0"
      ><svg width="14" height="14"><circle cx="7" cy="7" r="5" fill="none" stroke="#b0322a" stroke-width="2" /></svg>{{ gaps.length }}
      {{ gaps.length === 1 ? 'gap opens' : 'gaps open' }}, widest {{ gaps[0]!.width.toFixed(2) }} mm</span
    >
    <span v-else class="muted">no gap opens</span>
  </div>
  <div v-else-if="kind === 'penetrations'" class="legend"><span>each dot is one needle penetration</span></div>
</template>

<style scoped>
.lens {
  top: 12px;
}

.gap {
  width: 6px;
  background: var(--paper);
  border-right: 1px solid var(--line-soft);
}

.legend {
  position: absolute;
  top: 52px;
  left: 12px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  max-width: calc(100% - 24px);
  padding: 6px 11px;
  align-items: center;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 9px;
  font-size: 12px;
}

.legend span {
  display: inline-flex;
  gap: 5px;
  align-items: center;
}

.legend i {
  width: 14px;
  height: 14px;
  border-radius: 3px;
}

.legend .over i {
  background-image: repeating-linear-gradient(135deg, transparent 0 3px, #fffdf8 3px 4px);
}
</style>
