<script setup lang="ts">
import type { SewOutRecord } from '@isola/contract';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { api } from '../../api/client.ts';
import ChoiceField from '../../bench/fields/ChoiceField.vue';
import { sayTime } from '../../bench/figures/sayFigures.ts';
import PageHead from '../../shell/PageHead.vue';
import { useAct } from '../../stores/useAct.ts';
import { sayDay } from '../sewOuts/saySample.ts';
import LogbookCharts from './LogbookCharts.vue';
import { filterSamples, meanOff, NO_FILTER, type SampleFilter } from './filterSamples.ts';

/** All samples that the shop sewed: what was expected of them and what was found. */
const records = shallowRef<readonly SewOutRecord[]>();
const filter = ref<SampleFilter>(NO_FILTER);
const search = ref('');
const { act } = useAct();
onMounted(() => act(async () => void (records.value = await api.sewOuts())));

const found = computed(() => filterSamples(records.value ?? [], filter.value, search.value));
/** Those that there are samples of. */
function choices(part: keyof SampleFilter): (readonly [string, string])[] {
  const all = new Map<string, string>();
  for (const { sewOut } of records.value ?? []) {
    const one = sewOut[part];
    if (one !== null) all.set(one.id, one.name);
  }
  return [['', WORDS[part]], ...[...all].sort(([, a], [, b]) => a.localeCompare(b))];
}
const WORDS = { fabric: 'every cloth', thread: 'every thread', garment: 'every place', machine: 'every machine' } as const;
const PARTS = ['fabric', 'thread', 'garment', 'machine'] as const;
const measured = ({ sewOut }: SewOutRecord): number => sewOut.places.filter((place) => place.measured !== null).length;
</script>

<template>
  <div class="shop-page">
    <PageHead>
      <h1>Logbook</h1>
      <p class="muted number">{{ found.length === 1 ? '1 sample' : `${found.length} samples` }}</p>
      <v-text-field v-model="search" class="search" placeholder="Job, who, note…" aria-label="Search the samples" clearable />
      <ChoiceField
        v-for="part in PARTS"
        :key="part"
        class="choice"
        :label="part"
        :value="filter[part]"
        :choices="choices(part)"
        @change="filter = { ...filter, [part]: $event }"
      />
    </PageHead>
    <main v-if="records && records.length > 0">
      <section class="table" tabindex="0" aria-label="Samples">
        <table class="number">
          <thead>
            <tr>
              <th scope="col">sewn</th>
              <th scope="col">job</th>
              <th scope="col">on</th>
              <th scope="col">minutes</th>
              <th scope="col">expected</th>
              <th scope="col">breaks</th>
              <th scope="col">puckering</th>
              <th scope="col">measured</th>
              <th scope="col">moved more, mm</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in found" :key="one.id" :class="{ out: !one.sewOut.counts }">
              <td>
                {{ sayDay(one.sewOut.sewnOn) }}<small>{{ one.sewOut.who }}</small>
              </td>
              <th scope="row">
                <router-link v-if="one.jobId" :to="{ name: 'sew-outs', params: { id: one.jobId }, query: { sample: one.id } }">{{
                  one.jobName
                }}</router-link>
                <template v-else>{{ one.jobName }} (gone)</template>
                <small
                  >revision {{ one.sewOut.revision
                  }}{{ one.photos.length > 0 ? `, ${one.photos.length === 1 ? '1 photo' : `${one.photos.length} photos`}` : '' }}</small
                >
              </th>
              <td>
                {{ one.sewOut.fabric.name
                }}<small>{{ one.sewOut.garment?.name ?? 'no place' }}, {{ one.sewOut.thread.name }}, {{ one.sewOut.machine.name }}</small>
              </td>
              <td>{{ one.sewOut.minutes === null ? '–' : sayTime(one.sewOut.minutes * 60) }}</td>
              <td>{{ sayTime(one.sewOut.expected.seconds) }}</td>
              <td>{{ one.sewOut.breaks }}</td>
              <td>{{ one.sewOut.puckering }}</td>
              <td>{{ measured(one) }}</td>
              <td>{{ meanOff(one.sewOut) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="found.length === 0" class="muted none">No sample fits. Choose every cloth and every machine to see all.</p>
      </section>
      <LogbookCharts :records="found" />
    </main>
    <main v-else-if="records" class="empty">
      <h2>No sample is recorded yet</h2>
      <p class="muted">
        Samples are recorded with their jobs, under Sew-outs: what was sewn, how long it took, what was measured on the cloth.
      </p>
      <v-btn variant="outlined" :to="{ name: 'jobs' }">To the jobs</v-btn>
    </main>
  </div>
</template>

<style scoped>
main {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 360px;
  min-height: 0;
}

.search {
  max-width: 220px;
  margin-left: auto;
}

.choice {
  max-width: 150px;
}

.table {
  padding: 10px 20px 28px;
  overflow: auto;
}

table {
  width: 100%;
  border-collapse: collapse;
}

th,
td {
  padding: 6px 10px 6px 0;
  border-bottom: 1px solid var(--line-soft);
  font-weight: 400;
  text-align: left;
  vertical-align: top;
}

td:nth-child(n + 4),
thead th:nth-child(n + 4) {
  text-align: right;
}

thead th {
  position: sticky;
  top: 0;
  background: var(--paper);
  color: var(--ink-2);
  font-size: 12px;
}

small {
  display: block;
  color: var(--ink-2);
  font-size: 12px;
}

a {
  color: var(--sea);
  font-weight: 500;
}

.out {
  color: var(--ink-3);
}

.none,
.empty {
  padding: 32px 0;
}

.empty {
  display: grid;
  gap: 12px;
  align-content: start;
  justify-items: start;
  grid-template-columns: 1fr;
  padding: 48px 64px;
}

h2 {
  font-size: 18px;
  font-weight: 600;
}
</style>
