<script setup lang="ts">
import {
  type Band,
  type BandedValue,
  bandsOf,
  END_STITCH,
  isOpenFill,
  type ObjectSpec,
  OPEN_FROM,
  SHORTEST,
  SPEC_VALUES,
} from '@isola/core';
import { computed } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';
import { sayCount } from '../figures/sayFigures.ts';
import { isChangedFromFile, useSpecs } from '../../stores/specs.ts';
import AngleLineTools from './AngleLineTools.vue';
import HeldCompensation from './HeldCompensation.vue';
import SpecChoice from './SpecChoice.vue';
import SpecPairs from './SpecPairs.vue';
import { GRIDS, MANNERS, OFFSETS, ROW_ENDS, TIES } from './specWords.ts';
import TexturePicker from './TexturePicker.vue';
import SpecValue from './SpecValue.vue';
import UnderlayEditor from './UnderlayEditor.vue';

const bench = useBench();
const objects = useObjects();
const specs = useSpecs();
const notices = useNotices();

const spec = computed(() => specs.spec);
/** Compensation that the outline came with, where that is known; what a spec says comes on top of it. */
const heldPull = computed(() => objects.selected?.heldPull);
const bands = computed(() =>
  spec.value === undefined || bench.now === undefined ? {} : bandsOf(spec.value, bench.now.view.target, heldPull.value),
);
const has = (name: keyof ObjectSpec): boolean => spec.value !== undefined && SPEC_VALUES[spec.value.kind].includes(name);
const alikeCount = computed(() => objects.alike.filter((o) => o.role === 'cover').length);

const manner = computed(() => MANNERS.find((m) => spec.value !== undefined && m.is(spec.value))?.name ?? '');

function changeManner(name: string): void {
  const wanted = MANNERS.find((m) => m.name === name);
  if (wanted === undefined || spec.value === undefined) return;
  if (wanted.kind !== spec.value.kind) specs.changeKind(wanted.kind);
  const isClosing = wanted.name === 'fill' && isOpenFill(spec.value);
  const closed = isClosing ? { spacing: bench.now!.view.target.fabric.fillSpacing, isOpen: undefined } : {};
  if (Object.keys(wanted.values).length > 0 || isClosing) specs.change({ ...wanted.values, ...closed });
}

/** A closed fill that is spaced as only an open one is. */
const isShowing = computed(() => spec.value?.kind === 'fill' && !isOpenFill(spec.value) && spec.value.spacing >= OPEN_FROM);

async function attempt(act: () => Promise<boolean>): Promise<void> {
  try {
    await act();
  } catch (error) {
    notices.complain(error);
  }
}

interface Row {
  readonly name: 'spacing' | 'stitchLength' | 'angle' | 'pull' | 'splitLength' | 'width' | 'shortest' | 'endStitch';
  readonly label: string;
  readonly unit: string;
  readonly min: number;
  readonly max: number;
  readonly step: number;
  readonly isRatio?: true;
}

/** An axis in degrees from 0 to below 180. */
const axis = (angle: number): number => ((angle % 180) + 180) % 180;

/** The values of the spec's kind that are numbers on a scale, in the order they are set in. */
const rows = computed((): Row[] => {
  const { kind, angleLines } = spec.value!;
  const isLine = kind === 'edge-stitch' || objects.selected?.kind === 'run';
  const isTurning = kind === 'fill' && angleLines.length >= 2;
  const all: (Row | false)[] = [
    {
      ...{ name: 'spacing', label: 'Spacing', unit: 'mm', step: 0.01, isRatio: true },
      ...{ min: kind === 'satin' || kind === 'fill' ? 0.2 : 0.5, max: kind === 'satin' ? 1.5 : 5 },
    },
    { name: 'stitchLength', label: 'Stitch length', unit: 'mm', min: 1, max: 7, step: 0.1 },
    !isTurning && { name: 'angle', label: 'Angle', unit: '°', min: 0, max: 179, step: 1 },
    { name: 'pull', label: heldPull.value === undefined ? 'Compensation added' : 'Compensation', unit: 'mm', min: 0, max: 0.8, step: 0.01 },
    { name: 'splitLength', label: 'Throws split above', unit: 'mm', min: 3, max: 12, step: 0.1 },
    { name: 'shortest', label: 'Shortest stitch', unit: 'mm', min: 0.1, max: 1, step: 0.01 },
    { name: 'endStitch', label: 'Shortest at row ends', unit: 'mm', min: 0, max: 2, step: 0.05 },
    isLine && { name: 'width', label: kind === 'edge-stitch' ? 'Prongs reach' : 'Width', unit: 'mm', min: 0.6, max: 8, step: 0.1 },
  ];
  return all.filter((row): row is Row => row !== false && has(row.name));
});
const read = (of: ObjectSpec, name: Row['name']): number => {
  if (name === 'angle') return axis(of.angle);
  if (name === 'pull') return of.pull + (heldPull.value ?? 0);
  return of[name] ?? (name === 'endStitch' ? END_STITCH : SHORTEST);
};

/** The band of a value as it is shown: of compensation all of it, of which some may have come with the outline. */
function bandOf(name: Row['name']): Band | undefined {
  const band = name in bands.value ? bands.value[name as BandedValue] : undefined;
  if (name !== 'pull' || band === undefined) return band;
  const held = heldPull.value ?? 0;
  return { ...band, low: band.low + held, high: band.high + held, best: band.best + held };
}

function set(name: Row['name'], value: number): void {
  specs.change({ [name]: name === 'pull' ? Math.round((value - (heldPull.value ?? 0)) * 1000) / 1000 : value });
}

/** A shift that is none of the usual ones stands beside them as it is. */
const SAME_SHIFT = 0.004;
const offsets = computed(() => {
  const value = spec.value?.offset;
  const isUsual = typeof value !== 'number' || OFFSETS.some(([usual]) => Math.abs(Number(usual) - value) < SAME_SHIFT);
  return isUsual ? OFFSETS : [[String(value), `${value.toFixed(2)} of a stitch`] as const, ...OFFSETS];
});
const offset = computed(() => {
  const value = spec.value?.offset;
  if (typeof value !== 'number') return 'random';
  return OFFSETS.find(([usual]) => Math.abs(Number(usual) - value) < SAME_SHIFT)?.[0] ?? String(value);
});

const sayGivingWay = (count: number): string =>
  `${count === 1 ? '1 stitch that was set by itself gives way' : `${sayCount(count)} stitches that were set one by one give way`} when it is sewn so.`;

const ownOrigin = computed(() => specs.current?.origin ?? spec.value?.origin);
</script>

<template>
  <div v-if="spec" class="spec" aria-label="Spec">
    <SpecChoice label="Sewn as" :value="manner" :choices="MANNERS.map((m) => [m.name, m.name] as const)" @change="changeManner" />
    <p class="state muted">
      {{ objects.selected?.made ? 'Sewn from this spec' : 'As recognized; its own stitches are kept until a value changes' }}
    </p>
    <template v-for="row in rows" :key="row.name">
      <SpecValue
        v-bind="row"
        :value="read(spec, row.name)"
        :before="specs.current && read(specs.current, row.name)"
        :band="bandOf(row.name)"
        @change="set(row.name, $event)"
      />
      <HeldCompensation v-if="row.name === 'pull'" :held-pull="heldPull" @tell="specs.tellCompensation" />
      <p v-if="row.name === 'spacing' && isShowing" class="showing">
        The cloth shows through at {{ spec.spacing.toFixed(2) }} mm.
        <button type="button" class="in-words" @click="specs.change({ isOpen: undefined, underlay: [] })">
          Make it an open fill{{ spec.underlay.length > 0 ? ', without its underlay' : '' }}
        </button>
      </p>
      <AngleLineTools v-if="row.name === (spec.kind === 'satin' ? 'spacing' : 'angle')" />
    </template>
    <AngleLineTools v-if="spec.kind === 'fill' && spec.angleLines.length >= 2" />
    <UnderlayEditor v-if="has('underlay')" :layers="spec.underlay" :cover-angle="spec.angle" @change="specs.change({ underlay: $event })" />
    <SpecChoice
      v-if="has('offset') && spec.texture === undefined && spec.offset !== 'random'"
      label="Rows shifted by"
      :value="offset"
      :choices="offsets"
      @change="specs.change({ offset: $event === 'random' ? 'random' : Number($event) })"
    />
    <TexturePicker v-if="has('texture')" :spec="spec" @change="specs.change" />
    <SpecChoice
      v-if="has('origin') && ownOrigin !== undefined"
      label="Rows lie"
      :value="spec.origin === undefined ? 'shared' : 'own'"
      :choices="GRIDS"
      @change="specs.change({ origin: $event === 'own' ? ownOrigin : undefined })"
    />
    <SpecChoice
      v-if="has('rowEnds')"
      label="Row ends"
      :value="spec.rowEnds"
      :choices="ROW_ENDS"
      @change="specs.change({ rowEnds: $event as 'square' })"
    />
    <SpecChoice label="Locks" :value="spec.tie" :choices="TIES" @change="specs.change({ tie: $event as 'triangle' })" />
    <label v-if="alikeCount > 1" class="alike">
      <input v-model="specs.forAlike" type="checkbox" /> for all {{ alikeCount }} like this
    </label>
    <div class="foot">
      <p v-if="specs.refusal" class="refusal" role="alert">
        This cannot be sewn so: {{ specs.refusal }}.{{ bench.trial ? ' The cloth shows what was tried before.' : '' }}
      </p>
      <ul v-if="specs.suggested.length > 0" class="changes">
        <li v-for="c in specs.suggested" :key="c.value">
          <b>{{ c.from }} → {{ c.to }}:</b> {{ c.why }}.
        </li>
      </ul>
      <p v-else-if="specs.draft && !specs.isChanged" class="muted">
        All values are as this cloth wants them{{
          has('pull') && heldPull === undefined ? ', but for compensation, of which it is not known how much it came with' : ''
        }}.
      </p>
      <p v-if="specs.isChanged && specs.singleCount > 0" class="showing" role="status">
        {{ sayGivingWay(specs.singleCount) }}
      </p>
      <SpecPairs v-if="specs.pairs && specs.isChanged && !specs.refusal" :pairs="specs.pairs" />
      <div class="acts">
        <template v-if="specs.isChanged">
          <v-btn color="primary" :disabled="!!specs.refusal || !bench.trial" @click="attempt(specs.make)">Sew it so</v-btn>
          <v-btn variant="outlined" title="Escape" @click="specs.stepBack">Step back</v-btn>
        </template>
        <template v-else>
          <v-btn variant="outlined" @click="specs.suggest">As this cloth wants it</v-btn>
          <v-btn
            v-if="specs.scope.some((o) => o.made && o.edited)"
            variant="text"
            :title="sayGivingWay(specs.singleCount)"
            @click="attempt(specs.sewAgain)"
            >From its spec again</v-btn
          >
          <v-btn v-if="specs.scope.some(isChangedFromFile)" variant="text" @click="attempt(specs.reset)">Its own stitches</v-btn>
        </template>
      </div>
    </div>
  </div>
  <p v-else-if="specs.whyNone" class="muted none">No spec: {{ specs.whyNone }}.</p>
</template>

<style scoped>
.showing {
  padding: 6px 9px;
  border-left: 3px solid var(--fix);
  background: #f8eeda;
  font-size: 12.5px;
}

.spec {
  display: flex;
  flex: 1;
  flex-direction: column;
}

.state {
  padding-bottom: 4px;
  font-size: 12px;
}

.alike {
  padding: 8px 0;
  border-top: 1px solid var(--line-soft);
}

.refusal {
  padding-bottom: 2px;
  color: var(--stop);
}

.changes {
  max-height: 158px;
  padding: 0 0 6px 14px;
  margin: 0 0 6px;
  border-bottom: 1px solid var(--line-soft);
  overflow-y: auto;
  font-size: 12px;
}

.changes li + li {
  margin-top: 3px;
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
