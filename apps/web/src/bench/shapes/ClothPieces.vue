<script setup lang="ts">
import { cuttingLines, piecesOf } from '@isola/core';
import { computed } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { useAct } from '../../stores/useAct.ts';
import { saveFile } from '../../api/saveFile.ts';

/** The cloth that is laid on placement lines: its color for each, and its cutting lines as a file. */
const bench = useBench();
const objects = useObjects();
const { act } = useAct();

const lines = computed(() => objects.objects.filter(({ role, path }) => role === 'placement' && path !== undefined));
const pieces = computed(() => piecesOf(objects.objects));

function lay(id: string, name: string, color: string | null): Promise<void> {
  const look = bench.now!.view.target.fabric.look;
  const piece = color === null ? null : { color, look };
  return act(() => bench.perform(`${color === null ? 'no cloth' : 'cloth'} on ${name}`, { id: 'lay-cloth', object: id, piece }));
}

const save = (): void => saveFile(`${bench.job?.name ?? 'design'}-cutting-lines.svg`, 'image/svg+xml', cuttingLines(pieces.value));
</script>

<template>
  <section v-if="lines.length > 0" class="pieces" aria-label="Cloth laid on it">
    <h3>Cloth laid on placement lines</h3>
    <ul>
      <li v-for="{ id, name, piece, color } in lines" :key="id">
        <input
          type="color"
          :aria-label="`Cloth on ${name}`"
          :value="piece?.color ?? color"
          @change="lay(id, name, ($event.target as HTMLInputElement).value)"
        />
        <span>{{ name }}</span>
        <button v-if="piece" type="button" class="words" @click="lay(id, name, null)">say nothing</button>
        <em v-else class="muted">not said</em>
      </li>
    </ul>
    <v-btn v-if="pieces.length > 0" variant="outlined" size="small" @click="save">Cutting lines, true size</v-btn>
  </section>
</template>

<style scoped>
.pieces {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding-top: 8px;
  border-top: 1px solid var(--line);
}

h3 {
  color: var(--ink-2);
  font-size: 12px;
  font-weight: 600;
}

ul {
  display: grid;
  gap: 4px;
  width: 100%;
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
}

.words {
  border: 0;
  background: none;
  color: var(--sea);
  font: inherit;
  cursor: pointer;
}

input {
  width: 34px;
  height: 24px;
  padding: 1px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--card);
}
</style>
