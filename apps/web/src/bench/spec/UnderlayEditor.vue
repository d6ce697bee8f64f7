<script setup lang="ts">
import { mdiArrowDown, mdiArrowUp, mdiClose, mdiPlus } from '@mdi/js';
import { UNDERLAY_KINDS, type UnderlaySpec } from '@isola/core';
import ChoiceField from '../fields/ChoiceField.vue';
import { LAYER_NAMES } from '../objects/sayObject.ts';

/** The layers under a cover, in sewing order: each with its own pitch, inset, angle and stitch. */
const props = defineProps<{ layers: readonly UnderlaySpec[]; coverAngle: number }>();
const emit = defineEmits<{ change: [layers: UnderlaySpec[]] }>();

const LAYERS = UNDERLAY_KINDS.map((kind) => [kind, LAYER_NAMES[kind]] as const);
const USUAL = { tatami: 3.5, zigzag: 2 } as const;
const USUAL_STITCH = { tatami: 3.5, 'edge-run': 2.5, 'center-run': 2.5 } as const;

function usualSpacing(kind: UnderlaySpec['kind']): number | undefined {
  return kind === 'tatami' || kind === 'zigzag' ? USUAL[kind] : undefined;
}

function replace(at: number, layer: UnderlaySpec): void {
  emit(
    'change',
    props.layers.map((l, k) => (k === at ? layer : l)),
  );
}

function turnInto(at: number, kind: UnderlaySpec['kind']): void {
  const spacing = usualSpacing(kind);
  replace(at, { kind, ...(spacing === undefined ? {} : { spacing }) });
}

function put(at: number, name: 'spacing' | 'inset' | 'angle' | 'stitchLength', event: Event): void {
  const field = event.target as HTMLInputElement;
  const value = Number(field.value);
  const [low, high] = { spacing: [0.5, 20], inset: [0, 5], angle: [-180, 360], stitchLength: [1, 7] }[name] as [number, number];
  if (field.value === '' || !Number.isFinite(value)) return;
  replace(at, { ...props.layers[at]!, [name]: Math.max(low, Math.min(high, value)) });
}

function move(at: number, by: 1 | -1): void {
  const layers = [...props.layers];
  [layers[at], layers[at + by]] = [layers[at + by]!, layers[at]!];
  emit('change', layers);
}

function remove(at: number): void {
  emit(
    'change',
    props.layers.filter((_, k) => k !== at),
  );
}

function add(): void {
  const kind = props.layers.some((l) => l.kind === 'edge-run') ? 'tatami' : 'edge-run';
  const spacing = usualSpacing(kind);
  emit('change', [...props.layers, { kind, ...(spacing === undefined ? {} : { spacing }) }]);
}
</script>

<template>
  <div class="underlay">
    <h3>Underlay, in sewing order</h3>
    <p v-if="layers.length === 0" class="muted">None.</p>
    <ol>
      <li v-for="(layer, k) in layers" :key="k">
        <ChoiceField :label="`Layer ${k + 1}`" :value="layer.kind" :choices="LAYERS" @change="turnInto(k, $event)" />
        <span class="tools">
          <button type="button" :disabled="k === 0" :aria-label="`Layer ${k + 1} earlier`" title="Sew earlier" @click="move(k, -1)">
            <v-icon :icon="mdiArrowUp" size="16" />
          </button>
          <button
            type="button"
            :disabled="k === layers.length - 1"
            :aria-label="`Layer ${k + 1} later`"
            title="Sew later"
            @click="move(k, 1)"
          >
            <v-icon :icon="mdiArrowDown" size="16" />
          </button>
          <button type="button" :aria-label="`Leave layer ${k + 1} out`" title="Leave out" @click="remove(k)">
            <v-icon :icon="mdiClose" size="16" />
          </button>
        </span>
        <span class="figures">
          <label v-if="layer.kind === 'tatami' || layer.kind === 'zigzag'"
            >spacing
            <input class="number" type="number" step="0.1" :value="layer.spacing ?? USUAL[layer.kind]" @change="put(k, 'spacing', $event)"
          /></label>
          <label v-if="layer.kind !== 'center-run'"
            >inset <input class="number" type="number" step="0.1" :value="layer.inset ?? 0.6" @change="put(k, 'inset', $event)"
          /></label>
          <label v-if="layer.kind === 'tatami'"
            >at
            <input
              class="number"
              type="number"
              step="5"
              :value="(layer.angle ?? (coverAngle + 90) % 180).toFixed(0)"
              @change="put(k, 'angle', $event)"
            />°</label
          >
          <label v-if="layer.kind !== 'zigzag'"
            >stitch
            <input
              class="number"
              type="number"
              step="0.1"
              :value="(layer.stitchLength ?? USUAL_STITCH[layer.kind]).toFixed(1)"
              @change="put(k, 'stitchLength', $event)"
          /></label>
        </span>
      </li>
    </ol>
    <button v-if="layers.length < 4" type="button" class="add" @click="add"><v-icon :icon="mdiPlus" size="16" /> Add a layer</button>
  </div>
</template>

<style scoped>
.underlay {
  padding: 8px 0;
  border-top: 1px solid var(--line-soft);
}

h3 {
  margin-bottom: 4px;
  color: var(--ink-2);
  font-size: 13px;
  font-weight: 400;
}

ol {
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 3px 6px;
  padding: 3px 0;
}

.tools button,
.add {
  border: 0;
  border-radius: 5px;
  background: none;
  color: var(--ink-2);
  cursor: pointer;
}

.tools button:hover:not(:disabled),
.add:hover {
  background: var(--sea-soft);
}

.tools button:disabled {
  opacity: 0.3;
}

.figures {
  display: flex;
  grid-column: 1 / 3;
  gap: 8px;
  color: var(--ink-2);
  font-size: 12px;
}

.figures input {
  width: 42px;
  padding: 1px 4px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  text-align: right;
  appearance: textfield;
}

.figures input::-webkit-inner-spin-button {
  appearance: none;
}

.add {
  padding: 3px 6px;
  margin-left: -6px;
  color: var(--sea);
  font: inherit;
}
</style>
