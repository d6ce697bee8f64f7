<script setup lang="ts">
import { bandsOf, type ObjectSpec, SPEC_VALUES, type SpecKind } from '@isola/core';
import { computed } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';
import { useSpecs } from '../../stores/specs.ts';
import SpecPairs from './SpecPairs.vue';
import SpecValue from './SpecValue.vue';
import UnderlayEditor from './UnderlayEditor.vue';

const bench = useBench();
const objects = useObjects();
const specs = useSpecs();
const notices = useNotices();

const spec = computed(() => specs.spec);
const bands = computed(() => (spec.value === undefined || bench.now === undefined ? {} : bandsOf(spec.value, bench.now.view.target)));
const has = (name: keyof ObjectSpec): boolean => spec.value !== undefined && SPEC_VALUES[spec.value.kind].includes(name);
const isTurning = computed(() => (spec.value?.angleLines.length ?? 0) >= 2);
const alikeCount = computed(() => objects.alike.filter((o) => o.role === 'cover').length);

/** Ways to sew as they are spoken of: some are one kind with another value. */
const MANNERS: readonly {
  readonly name: string;
  readonly kind: SpecKind;
  readonly values: Partial<ObjectSpec>;
  readonly is: (s: ObjectSpec) => boolean;
}[] = [
  { name: 'run', kind: 'run', values: { passes: 1 }, is: (s) => s.kind === 'run' && s.passes === 1 },
  { name: 'double run', kind: 'run', values: { passes: 2 }, is: (s) => s.kind === 'run' && s.passes === 2 },
  { name: 'triple run', kind: 'run', values: { passes: 3 }, is: (s) => s.kind === 'run' && s.passes >= 3 },
  { name: 'satin', kind: 'satin', values: {}, is: (s) => s.kind === 'satin' },
  { name: 'fill', kind: 'fill', values: {}, is: (s) => s.kind === 'fill' && s.spacing < 0.9 },
  { name: 'open fill', kind: 'fill', values: { spacing: 1.5, underlay: [] }, is: (s) => s.kind === 'fill' && s.spacing >= 0.9 },
  { name: 'contour', kind: 'contour', values: {}, is: (s) => s.kind === 'contour' },
  { name: 'meander', kind: 'meander', values: {}, is: (s) => s.kind === 'meander' },
  { name: 'edge stitch', kind: 'edge-stitch', values: {}, is: (s) => s.kind === 'edge-stitch' },
];
const manner = computed(() => MANNERS.find((m) => spec.value !== undefined && m.is(spec.value))?.name ?? '');

function changeManner(event: Event): void {
  const wanted = MANNERS.find((m) => m.name === (event.target as HTMLSelectElement).value);
  if (wanted === undefined || spec.value === undefined) return;
  if (wanted.kind !== spec.value.kind) specs.changeKind(wanted.kind);
  const isClosing = wanted.name === 'fill' && spec.value.kind === 'fill' && spec.value.spacing >= 0.9;
  const closed = isClosing ? { spacing: bench.now!.view.target.fabric.fillSpacing } : {};
  if (Object.keys(wanted.values).length > 0 || isClosing) specs.change({ ...wanted.values, ...closed });
}

/** Two angle lines across the object to begin with: a little to either side of its present angle. */
function turnRows(): void {
  const box = objects.selected?.outline;
  if (spec.value === undefined || box === undefined) return;
  if (isTurning.value) {
    specs.change({ angleLines: [] });
    return;
  }
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < box.length; k += 2) {
    [minX, maxX] = [Math.min(minX, box[k]!), Math.max(maxX, box[k]!)];
    [minY, maxY] = [Math.min(minY, box[k + 1]!), Math.max(maxY, box[k + 1]!)];
  }
  const [cx, cy] = [(minX + maxX) / 2, (minY + maxY) / 2];
  const reach = 0.25 * Math.min(maxX - minX, maxY - minY);
  const turn = (spec.value.angle * Math.PI) / 180;
  const line = (side: 1 | -1): [number, number, number, number] => {
    const [x, y] = [cx - Math.sin(turn) * reach * side, cy + Math.cos(turn) * reach * side];
    const at = turn + side * 0.2;
    const thousandth = (v: number): number => Math.round(v * 1000) / 1000;
    return [x - Math.cos(at) * reach, y - Math.sin(at) * reach, x + Math.cos(at) * reach, y + Math.sin(at) * reach].map((v) =>
      thousandth(v),
    ) as [number, number, number, number];
  };
  specs.change({ angleLines: [line(-1), line(1)] });
}

async function attempt(act: () => Promise<boolean>): Promise<void> {
  try {
    await act();
  } catch (error) {
    notices.complain(error);
  }
}

const OFFSETS = [
  [0.25, 'a quarter'],
  [0.3, 'three tenths'],
  [0.333, 'a third'],
  [0.5, 'half'],
] as const;
const offset = computed(() => {
  const value = spec.value?.offset;
  if (value === 'random' || value === undefined) return 'random';
  return String(OFFSETS.reduce((a, [v]) => (Math.abs(v - value) < Math.abs(a - value) ? v : a), 0.25));
});
function changeOffset(event: Event): void {
  const { value } = event.target as HTMLSelectElement;
  specs.change({ offset: value === 'random' ? 'random' : Number(value) });
}
</script>

<template>
  <div v-if="spec" class="spec" aria-label="Spec">
    <div class="line">
      <label for="manner">Sewn as</label>
      <select id="manner" :value="manner" @change="changeManner">
        <option v-for="m in MANNERS" :key="m.name" :value="m.name">{{ m.name }}</option>
      </select>
    </div>
    <p class="state muted">
      {{ objects.selected?.rebuilt ? 'Sewn from this spec' : 'As recognized; its own stitches are kept until a value changes' }}
    </p>
    <SpecValue
      v-if="has('spacing')"
      label="Spacing"
      unit="mm"
      :value="spec.spacing"
      :before="specs.current?.spacing"
      :min="spec.kind === 'satin' || spec.kind === 'fill' ? 0.2 : 0.5"
      :max="spec.kind === 'satin' ? 1.5 : 5"
      :step="0.01"
      :band="bands.spacing"
      is-ratio
      @change="specs.change({ spacing: $event })"
    />
    <SpecValue
      v-if="has('stitchLength')"
      label="Stitch length"
      unit="mm"
      :value="spec.stitchLength"
      :before="specs.current?.stitchLength"
      :min="1"
      :max="7"
      :step="0.1"
      :band="bands.stitchLength"
      @change="specs.change({ stitchLength: $event })"
    />
    <SpecValue
      v-if="has('angle') && !isTurning"
      label="Angle"
      unit="°"
      :value="((spec.angle % 180) + 180) % 180"
      :before="specs.current && ((specs.current.angle % 180) + 180) % 180"
      :min="0"
      :max="179"
      :step="1"
      @change="specs.change({ angle: $event })"
    />
    <p v-if="has('angleLines')" class="turn">
      <button type="button" :aria-pressed="isTurning" @click="turnRows">
        {{ isTurning ? 'Rows straight again' : 'Let the rows turn' }}
      </button>
      <span class="muted">{{ isTurning ? 'drag the ends of the lines on the cloth' : 'or drag the grip on the cloth' }}</span>
    </p>
    <SpecValue
      v-if="has('pull')"
      label="Compensation"
      unit="mm"
      :value="spec.pull"
      :before="specs.current?.pull"
      :min="0"
      :max="0.8"
      :step="0.01"
      :band="bands.pull"
      @change="specs.change({ pull: $event })"
    />
    <SpecValue
      v-if="has('splitLength')"
      label="Throws split above"
      unit="mm"
      :value="spec.splitLength"
      :before="specs.current?.splitLength"
      :min="3"
      :max="12"
      :step="0.1"
      :band="bands.splitLength"
      @change="specs.change({ splitLength: $event })"
    />
    <SpecValue
      v-if="has('width') && (spec.kind === 'edge-stitch' || objects.selected?.kind === 'run')"
      :label="spec.kind === 'edge-stitch' ? 'Prongs reach' : 'Width'"
      unit="mm"
      :value="spec.width"
      :before="specs.current?.width"
      :min="0.6"
      :max="8"
      :step="0.1"
      @change="specs.change({ width: $event })"
    />
    <UnderlayEditor v-if="has('underlay')" :layers="spec.underlay" :cover-angle="spec.angle" @change="specs.change({ underlay: $event })" />
    <div v-if="has('offset')" class="line">
      <label for="offset">Rows shifted by</label>
      <select id="offset" :value="offset" @change="changeOffset">
        <option v-for="[value, words] in OFFSETS" :key="value" :value="String(value)">{{ words }}</option>
        <option value="random">chance</option>
      </select>
    </div>
    <div v-if="has('rowEnds')" class="line">
      <label for="row-ends">Row ends</label>
      <select
        id="row-ends"
        :value="spec.rowEnds"
        @change="specs.change({ rowEnds: ($event.target as HTMLSelectElement).value as 'square' })"
      >
        <option value="slanted">slanting over</option>
        <option value="square">square</option>
      </select>
    </div>
    <div class="line">
      <label for="tie">Locks</label>
      <select id="tie" :value="spec.tie" @change="specs.change({ tie: ($event.target as HTMLSelectElement).value as 'triangle' })">
        <option value="to-and-fro">to and fro</option>
        <option value="triangle">small triangle</option>
        <option value="none">none</option>
      </select>
    </div>
    <label v-if="alikeCount > 1" class="alike">
      <input v-model="specs.forAlike" type="checkbox" /> for all {{ alikeCount }} like this
    </label>
    <p v-if="specs.refusal" class="refusal" role="alert">This cannot be sewn so: {{ specs.refusal }}.</p>
    <div class="foot">
      <ul v-if="specs.suggested.length > 0" class="changes">
        <li v-for="c in specs.suggested" :key="c.value">
          <b>{{ c.from }} → {{ c.to }}</b> {{ c.why }}.
        </li>
      </ul>
      <p v-else-if="specs.draft && !specs.isChanged" class="muted">All values are as this cloth wants them.</p>
      <SpecPairs v-if="specs.pairs && specs.isChanged" :pairs="specs.pairs" />
      <div class="acts">
        <template v-if="specs.isChanged">
          <v-btn color="primary" :disabled="!!specs.refusal || !bench.trial || specs.isWorking" @click="attempt(specs.make)"
            >Sew it so</v-btn
          >
          <v-btn variant="outlined" title="Escape" @click="specs.stepBack">Step back</v-btn>
        </template>
        <template v-else>
          <v-btn variant="outlined" @click="specs.suggest">As this cloth wants it</v-btn>
          <v-btn v-if="specs.scope.some((o) => o.rebuilt)" variant="text" @click="attempt(specs.reset)">Its own stitches</v-btn>
        </template>
      </div>
    </div>
  </div>
  <p v-else-if="specs.whyNone" class="muted none">No spec: {{ specs.whyNone }}.</p>
</template>

<style scoped>
.spec {
  display: flex;
  flex: 1;
  flex-direction: column;
}

.line {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--line-soft);
}

.line label {
  color: var(--ink-2);
}

.state {
  padding-bottom: 4px;
  font-size: 12px;
}

.turn {
  display: flex;
  gap: 8px;
  align-items: center;
  padding-bottom: 6px;
  font-size: 12px;
}

.turn button {
  padding: 2px 7px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: none;
  color: var(--sea);
  font: inherit;
  white-space: nowrap;
  cursor: pointer;
}

.turn button[aria-pressed='true'] {
  background: var(--sea-soft);
}

.alike {
  padding: 8px 0;
  border-top: 1px solid var(--line-soft);
}

.refusal {
  padding: 6px 0;
  color: var(--stop);
}

.changes {
  max-height: 132px;
  padding: 0 0 8px 14px;
  margin: 0;
  overflow-y: auto;
  font-size: 12px;
}

.foot {
  position: sticky;
  z-index: 1;
  bottom: -14px;
  padding: 8px 0 14px;
  margin-top: auto;
  background: var(--card);
  border-top: 1px solid var(--line);
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding-top: 8px;
}

.none {
  padding: 10px 0;
}
</style>
