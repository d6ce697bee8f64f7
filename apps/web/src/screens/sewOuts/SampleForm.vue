<script setup lang="ts">
import { PUCKERING, type SamplePlace, SewOut } from '@isola/core';
import { mdiClose } from '@mdi/js';
import { computed, nextTick, useTemplateRef, watch } from 'vue';
import ChoiceField from '../../bench/fields/ChoiceField.vue';
import { sayTime } from '../../bench/figures/sayFigures.ts';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSewOuts } from '../../stores/sewOuts.ts';
import { useShop } from '../../stores/shop.ts';
import { useAct } from '../../stores/useAct.ts';
import { AS_EXPECTED, offBy, sayOff } from './saySample.ts';

/** What is written down of a sample: on what it was sewn, how long that took, and what was measured at the numbered places. */
const selected = defineModel<number | undefined>('selected');
const bench = useBench();
const sewOuts = useSewOuts();
const shop = useShop();
const notices = useNotices();
const { isBusy, act } = useAct();
const draft = computed(() => sewOuts.draft!);
const table = useTemplateRef<HTMLTableElement>('table');

const revisions = computed(() =>
  [...(bench.job?.revisions ?? [])].reverse().map(({ number, name }) => [number, `Revision ${number}: ${name}`] as const),
);
/** The shop's records, and the one that the sample has, should the shop have another or none by that id now. */
const choicesOf = (list: readonly { readonly id: string; readonly name: string }[], own: { readonly id: string; readonly name: string }) =>
  [...(list.some(({ id }) => id === own.id) ? list : [own, ...list])].map(({ id, name }) => [id, name] as const);
const cloths = computed(() => choicesOf(shop.shop?.fabrics ?? [], draft.value.fabric));
const machines = computed(() => choicesOf(shop.shop?.machines ?? [], draft.value.machine));

const problems = computed(() => {
  const read = SewOut.safeParse(draft.value);
  return read.success ? [] : read.error.issues.map(({ path, message }) => `${SAID[String(path[0])] ?? String(path[0])}: ${message}`);
});
const SAID: Readonly<Record<string, string>> = {
  who: 'Sewn by',
  sewnOn: 'Sewn on',
  minutes: 'Minutes',
  breaks: 'Thread breaks',
  places: 'Places',
};
const canSave = computed(() => sewOuts.isChanged && problems.value.length === 0 && !isBusy.value);

const numberOf = (event: Event): number | null => {
  const text = (event.target as HTMLInputElement).value.replace(',', '.').trim();
  return text === '' ? null : Number(text);
};

function measure(k: number, measured: number | null): void {
  const places = draft.value.places.map((place, at): SamplePlace => (at === k ? { ...place, measured } : place));
  sewOuts.change({ places });
}

function drop(k: number): void {
  sewOuts.change({ places: draft.value.places.filter((_, at) => at !== k) });
  selected.value = undefined;
}

watch(selected, async (k) => {
  if (k === undefined) return;
  await nextTick();
  table.value?.querySelectorAll<HTMLInputElement>('tbody input')[k]?.focus();
});

const save = (): Promise<void> =>
  act(async () => {
    await sewOuts.save();
    notices.say('The sample is recorded', 'What it taught stands below, to be taken up or not.');
  });
const classOf = (place: SamplePlace): string => (Math.abs(offBy(place) ?? 0) > AS_EXPECTED ? 'off' : '');
</script>

<template>
  <form aria-label="The sample" @submit.prevent="canSave && save()">
    <div class="fields">
      <p v-if="sewOuts.record" class="wide">Revision {{ draft.revision }} was sewn.</p>
      <ChoiceField
        v-else
        label="Revision that was sewn"
        class="wide"
        :value="draft.revision"
        :choices="revisions"
        @change="act(() => sewOuts.beginOf($event))"
      />
      <ChoiceField
        label="Cloth"
        :value="draft.fabric.id"
        :choices="cloths"
        @change="act(() => sewOuts.sewnOn({ fabric: shop.shop!.fabrics.find(({ id }) => id === $event) ?? draft.fabric }))"
      />
      <ChoiceField
        label="Machine"
        :value="draft.machine.id"
        :choices="machines"
        @change="act(() => sewOuts.sewnOn({ machine: shop.shop!.machines.find(({ id }) => id === $event) ?? draft.machine }))"
      />
      <label
        >Sewn on <input type="date" :value="draft.sewnOn" @change="sewOuts.change({ sewnOn: ($event.target as HTMLInputElement).value })"
      /></label>
      <label
        >Sewn by <input :value="draft.who" maxlength="200" @input="sewOuts.change({ who: ($event.target as HTMLInputElement).value })"
      /></label>
      <label
        >Minutes, without standing
        <input
          type="number"
          min="0"
          step="0.1"
          inputmode="decimal"
          :value="draft.minutes ?? ''"
          :placeholder="(draft.expected.seconds / 60).toFixed(1)"
          @input="sewOuts.change({ minutes: numberOf($event) })"
      /></label>
      <label
        >Thread breaks
        <input type="number" min="0" step="1" :value="draft.breaks" @input="sewOuts.change({ breaks: numberOf($event) ?? 0 })"
      /></label>
    </div>
    <p class="muted small number">
      The clock expects {{ sayTime(draft.expected.seconds)
      }}<template v-if="draft.minutes">, it took {{ sayTime(draft.minutes * 60) }}</template
      >; an estimate.
    </p>
    <fieldset class="puckers">
      <legend>Puckering</legend>
      <span class="segments" role="group" aria-label="Puckering">
        <button
          v-for="one in PUCKERING"
          :key="one"
          type="button"
          :aria-pressed="draft.puckering === one"
          @click="sewOuts.change({ puckering: one })"
        >
          {{ one }}
        </button>
      </span>
    </fieldset>
    <table v-if="draft.places.length > 0" ref="table" class="number">
      <thead>
        <tr>
          <th scope="col">place</th>
          <th scope="col">planned</th>
          <th scope="col">expected</th>
          <th scope="col">found, mm</th>
          <th scope="col">off by</th>
          <th scope="col"><span class="visually-hidden">take away</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(place, k) in draft.places" :key="k" :class="{ selected: k === selected }">
          <th scope="row">
            <b>{{ k + 1 }}</b> {{ place.kind }} <small class="muted">{{ place.name }}</small>
          </th>
          <td>{{ place.designed.toFixed(1) }}</td>
          <td>{{ place.expected.toFixed(1) }}</td>
          <td>
            <input
              type="number"
              min="0"
              step="0.1"
              inputmode="decimal"
              :value="place.measured ?? ''"
              :aria-label="`Found at place ${k + 1}, ${place.kind} of ${place.name}, mm`"
              @focus="selected = k"
              @input="measure(k, numberOf($event))"
            />
          </td>
          <td :class="classOf(place)">{{ offBy(place) === undefined ? '' : sayOff(offBy(place)!) }}</td>
          <td>
            <button type="button" class="drop" :aria-label="`Take place ${k + 1} away`" @click="drop(k)">
              <v-icon :icon="mdiClose" size="14" />
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p class="muted small">
      <template v-if="draft.places.length === 0"
        >Lines alone have no width that cloth draws in: there is nothing to measure here, and minutes teach the machine’s clock all the
        same.</template
      >
      <template v-else
        >Widths along the thread, gaps between edges. Click the cloth to measure another width. Leave empty what you did not
        measure.</template
      >
    </p>
    <v-textarea
      :model-value="draft.note"
      label="What else was seen: loops, gaps, a hard edge…"
      rows="1"
      auto-grow
      maxlength="4000"
      @update:model-value="sewOuts.change({ note: $event ?? '' })"
    />
    <label class="tick">
      <input type="checkbox" :checked="draft.counts" @change="sewOuts.change({ counts: ($event.target as HTMLInputElement).checked })" />
      Cloth and machine learn of it
    </label>
    <ul v-if="sewOuts.isChanged && problems.length > 0" class="problems" role="status">
      <li v-for="problem in problems" :key="problem">{{ problem }}</li>
    </ul>
    <div class="actions">
      <v-btn type="submit" :disabled="!canSave" :loading="isBusy">{{ sewOuts.record ? 'Save the change' : 'Record the sample' }}</v-btn>
      <v-btn v-if="sewOuts.isChanged" variant="text" @click="sewOuts.putBack()">Back as it was</v-btn>
    </div>
  </form>
</template>

<style scoped src="./sampleForm.css"></style>
