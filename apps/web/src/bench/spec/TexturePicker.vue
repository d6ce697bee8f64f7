<script setup lang="ts">
import { type ObjectSpec, TEXTURES, textureOf } from '@isola/core';
import { computed } from 'vue';

/** How a fill's rows are shifted against each other, as pictures: one shift, a texture, or chance with its seed. */
const props = defineProps<{ spec: ObjectSpec }>();
const emit = defineEmits<{ change: [values: Partial<ObjectSpec>] }>();

/** A picture has so many rows; a stitch is so long, and rows lie so far apart, px. */
const ROWS = 15;
const STITCH = 15;
const APART = 2.4;
const WIDTH = 46;

/** Rows of stitches as they would lie, each shifted by its share of one. */
function picture(shiftOf: (row: number) => number): string {
  let d = '';
  for (let row = 0; row < ROWS; row++) {
    const y = (row + 0.5) * APART;
    for (let x = (shiftOf(row) % 1) * STITCH - STITCH; x < WIDTH; x += STITCH) {
      const [from, to] = [Math.max(0, x + 1.2), Math.min(WIDTH, x + STITCH - 1.2)];
      if (to > from) d += `M${from.toFixed(1)} ${y.toFixed(1)}H${to.toFixed(1)}`;
    }
  }
  return d;
}

/** Chance that is the same each time. */
const chance = (row: number): number => (Math.sin(row * 127.1) * 43758.5453 + 43759) % 1;

const choices = computed(() => [
  { id: 'shift', name: 'one shift', d: picture((row) => row * (typeof props.spec.offset === 'number' ? props.spec.offset : 0.3)) },
  ...TEXTURES.map(({ id, name, shifts }) => ({ id, name, d: picture((row) => shifts[row % shifts.length]!) })),
  { id: 'chance', name: 'chance', d: picture(chance) },
]);
const chosen = computed(() => {
  const { texture, offset } = props.spec;
  if (texture !== undefined) return textureOf(texture)?.id ?? 'own';
  return offset === 'random' ? 'chance' : 'shift';
});

function choose(id: string): void {
  const shifts = TEXTURES.find((texture) => texture.id === id)?.shifts;
  if (shifts !== undefined) emit('change', { texture: [...shifts], seed: undefined });
  else if (id === 'chance') emit('change', { texture: undefined, offset: 'random', seed: props.spec.seed ?? 1 });
  else emit('change', { texture: undefined, seed: undefined, ...(props.spec.offset === 'random' ? { offset: 0.3 } : {}) });
}

function setSeed(text: string): void {
  const seed = Number(text);
  if (Number.isInteger(seed) && seed >= 0 && seed <= 999_999) emit('change', { seed });
}
</script>

<template>
  <div class="textures">
    <p>Texture <span v-if="chosen === 'own'" class="muted">of its own</span></p>
    <div class="grid" role="radiogroup" aria-label="Texture">
      <button
        v-for="{ id, name, d } in choices"
        :key="id"
        type="button"
        role="radio"
        :aria-checked="chosen === id"
        :title="name"
        @click="choose(id)"
      >
        <svg :viewBox="`0 0 ${WIDTH} ${ROWS * APART}`" aria-hidden="true"><path :d="d" /></svg>
        <span>{{ name }}</span>
      </button>
    </div>
    <label v-if="chosen === 'chance'" class="seed"
      >Seed
      <input
        class="number"
        inputmode="numeric"
        aria-label="Seed of chance"
        :value="spec.seed ?? 0"
        @change="setSeed(($event.target as HTMLInputElement).value)"
      />
      <span class="muted">the same seed gives the same stitches</span></label
    >
  </div>
</template>

<style scoped>
.textures {
  display: grid;
  gap: 6px;
  padding: 8px 0;
}

.grid {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
}

button {
  display: grid;
  gap: 2px;
  padding: 4px 3px 2px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  color: var(--ink-2);
  font: inherit;
  font-size: 11px;
  cursor: pointer;
}

button[aria-checked='true'] {
  border-color: var(--sea);
  background: var(--sea-soft);
  color: var(--ink);
}

svg {
  width: 100%;
}

path {
  stroke: var(--ink);
  stroke-width: 1.5;
}

.seed {
  display: flex;
  gap: 8px;
  align-items: center;
  font-size: 12px;
}

.seed input {
  width: 70px;
  padding: 3px 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  color: var(--ink);
  font: inherit;
  text-align: right;
}
</style>
