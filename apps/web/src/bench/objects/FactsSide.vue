<script setup lang="ts">
import { findNeighbours, STITCH_KINDS, STITCH_ROLES, type StitchObject } from '@isola/core';
import { computed } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { sayCount, sayTime } from '../figures/sayFigures.ts';
import ChoiceField from '../fields/ChoiceField.vue';
import ReadAnew from './ReadAnew.vue';
import { LAYER_NAMES, saySize } from './sayObject.ts';

/** What was measured of the selected object, what it lies on and beside, and what can be put right about it. */
const emit = defineEmits<{ pick: []; join: []; split: []; tell: [what: string]; move: [by: 1 | -1] }>();
const bench = useBench();
const objects = useObjects();

const object = computed(() => objects.selected);
const facts = computed<[string, string][]>(() => {
  const o = object.value;
  if (o === undefined) return [];
  const seconds = secondsOf(o);
  const rows: [string, string | undefined][] = [
    ['Spacing', o.spacing === undefined ? undefined : `${o.spacing.toFixed(2)} mm`],
    ['Angle', o.kind !== 'fill' || o.pattern !== undefined || o.angle === undefined ? undefined : `${o.angle.toFixed(1)}°`],
    ['Width', o.width === undefined ? undefined : `${o.width.mean.toFixed(1)} mm (${o.width.min.toFixed(1)} to ${o.width.max.toFixed(1)})`],
    ['Stitch length', o.kind === 'satin' ? undefined : `${o.stitchLength.toFixed(2)} mm`],
    ['Offset', o.offset === undefined ? undefined : `${(100 * o.offset).toFixed(0)} % a row`],
    ['Passes', o.passes === undefined || o.passes < 2 ? undefined : String(o.passes)],
    ['Size', saySize(o)],
    ['Holes', o.holes.length === 0 ? undefined : String(o.holes.length)],
    ['Stitches', sayCount(o.stitches)],
    ['Sewing time', seconds === undefined ? undefined : `${sayTime(seconds)} (estimate)`],
    ['Enters', sayPlace(o.entry)],
    ['Leaves', sayPlace(o.exit)],
  ];
  return rows.filter((row): row is [string, string] => row[1] !== undefined);
});
const stack = computed(() => {
  const view = objects.known;
  const at = objects.selectedIndex;
  if (view === undefined || at < 0) return [];
  return objects.layers.flatMap(({ over, under, area }) =>
    over === at
      ? [{ words: 'lies on', other: view.objects[under]!, area }]
      : under === at
        ? [{ words: 'lies under', other: view.objects[over]!, area }]
        : [],
  );
});
const neighbours = computed(() => {
  if (object.value === undefined) return [];
  const stacked = new Set(stack.value.map((s) => s.other));
  return findNeighbours(objects.objects, object.value)
    .filter((n) => !stacked.has(n.object))
    .slice(0, 6);
});
const nextName = computed(() => objects.next?.name);
const canSplit = computed(
  () => object.value !== undefined && objects.place !== undefined && bench.upTo > object.value.first && bench.upTo <= object.value.last,
);

function sayPlace({ x, y }: { readonly x: number; readonly y: number }): string {
  return `${x.toFixed(1)}, ${y.toFixed(1)} mm`;
}

function secondsOf(o: StitchObject): number | undefined {
  const done = bench.now?.view.done;
  if (done === undefined) return undefined;
  return o.spans.reduce((sum, s) => sum + done[s.last]! - (s.first > 0 ? done[s.first - 1]! : 0), 0);
}

function go(to: StitchObject | undefined): void {
  objects.select(to);
  emit('pick');
}

/** What it can be told to be. */
const READINGS = [
  ...STITCH_KINDS.map((kind) => [kind, kind === 'other' ? 'something else' : `a ${kind}`] as const),
  ...STITCH_ROLES.filter((role) => role !== 'cover').map((role) => [role, role === 'tackdown' ? 'tack-down' : role] as const),
];
</script>

<template>
  <template v-if="object">
    <dl class="number">
      <div v-for="[name, value] in facts" :key="name">
        <dt>{{ name }}</dt>
        <dd>{{ value }}</dd>
      </div>
    </dl>
    <template v-if="object.underlay.length > 0">
      <h3>Underlay, in order</h3>
      <ol class="links">
        <li v-for="(layer, k) in object.underlay" :key="layer.object">
          <button type="button" @click="go(objects.objects.find((o) => o.id === layer.object))">
            <span class="muted">{{ k + 1 }}</span> {{ LAYER_NAMES[layer.kind] }}
            <span class="number muted">
              {{ layer.spacing === undefined ? '' : `${layer.spacing.toFixed(2)} mm` }}
              {{ layer.angle === undefined ? '' : `${layer.angle.toFixed(0)}°` }}
            </span>
          </button>
        </li>
      </ol>
    </template>
    <p v-if="object.parent" class="links">
      <button type="button" @click="go(objects.objects.find((o) => o.id === object?.parent))">
        for {{ objects.objects.find((o) => o.id === object?.parent)?.name }}
      </button>
    </p>
    <template v-if="stack.length > 0 || neighbours.length > 0">
      <h3>Around it</h3>
      <ul class="links">
        <li v-for="s in stack.slice(0, 8)" :key="`${s.words} ${s.other.id}`">
          <button type="button" @click="go(s.other)">
            <span class="muted">{{ s.words }}</span> {{ s.other.name }} <span class="number muted">{{ s.area.toFixed(0) }} mm²</span>
          </button>
        </li>
        <li v-for="n in neighbours" :key="n.object.id">
          <button type="button" @click="go(n.object)">
            <span class="muted">beside</span> {{ n.object.name }} <span class="number muted">{{ n.gap.toFixed(1) }} mm</span>
          </button>
        </li>
      </ul>
    </template>
    <template v-if="objects.place && objects.place.block.objects.length > 1">
      <h3>
        Sewn as <span class="number">{{ objects.place.at + 1 }} of {{ objects.place.block.objects.length }}</span> with this thread on
      </h3>
      <div class="acts">
        <v-btn variant="outlined" :disabled="objects.place.at === 0" @click="emit('move', -1)">Sew earlier</v-btn>
        <v-btn variant="outlined" :disabled="objects.place.at === objects.place.block.objects.length - 1" @click="emit('move', 1)"
          >Sew later</v-btn
        >
      </div>
    </template>
    <h3>Put right what was recognized</h3>
    <div class="acts">
      <v-btn variant="outlined" :disabled="!nextName" :title="nextName ? `with ${nextName} · key j` : ''" @click="emit('join')"
        >Join with next</v-btn
      >
      <v-btn variant="outlined" :title="canSplit ? 'key s' : 'step to a stitch inside it first'" @click="emit('split')"
        >Split at this stitch</v-btn
      >
      <span v-if="objects.place" class="told"
        >It is <ChoiceField label="Tell what it is" :value="undefined" placeholder="…" :choices="READINGS" @change="emit('tell', $event)"
      /></span>
      <ReadAnew v-if="objects.place" :ids="[object.id]" />
    </div>
  </template>
</template>

<style scoped>
h3 {
  margin: 14px 0 4px;
  color: var(--ink-2);
  font-size: 12px;
  font-weight: 600;
}

dl {
  margin-top: 10px;
}

dl > div {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 4px 0;
  border-top: 1px solid var(--line-soft);
}

dt {
  color: var(--ink-2);
}

dd {
  font-weight: 500;
  text-align: right;
}

.links button {
  width: 100%;
  padding: 3px 6px;
  margin-left: -6px;
  border: 0;
  border-radius: 5px;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}

.links button:hover {
  background: var(--sea-soft);
}

.told {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}

.told > :deep(.choice-field) {
  width: 118px;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
</style>
