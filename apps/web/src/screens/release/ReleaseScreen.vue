<script setup lang="ts">
import type { RevisionSummary } from '@isola/contract';
import { type Figures, FORMATS } from '@isola/core';
import { mdiDownload } from '@mdi/js';
import { computed, ref } from 'vue';
import { api } from '../../api/client.ts';
import SeverityMark from '../../bench/docket/SeverityMark.vue';
import { sayCount, sayTime } from '../../bench/figures/sayFigures.ts';
import SignOffForm from './SignOffForm.vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useViewing } from '../../stores/viewing.ts';

const bench = useBench();
const viewing = useViewing();
const notices = useNotices();
const note = ref('');
const isKeeping = ref(false);

const stops = computed(() => bench.openFindings.filter((f) => f.severity === 'stop'));
const others = computed(() => bench.openFindings.length - stops.value.length);
const isSaved = computed(() => bench.outgoing === undefined);
const target = computed(() => bench.now!.view.target);
const colors = computed(() => bench.now!.view.figures.colors);

const CAUTIONS = [
  'Keep hands, hair and sleeves from the moving frame and needle; stop the machine before reaching in and before changing a needle.',
  'Check that the design clears the hoop before starting. A needle that hits the frame breaks and flies: wear eye protection.',
  "Heed the machine maker's instructions, local safety rules and those trained to service it.",
  'Stiff backs and small sewn-on parts do not belong against a small child’s skin; flame and children’s-wear rules are yours to check.',
  'All predictions here are estimates: sew a sample on the real cloth before the run.',
];

function open(key: string): void {
  viewing.selected = key;
}

/** Whether files may leave as they are now. */
const signed = computed(() => bench.job?.signOffs.findLast((s) => s.version === bench.job!.version));
const mayLeave = computed(() => isSaved.value && (stops.value.length === 0 || signed.value !== undefined));
const released = computed(() => bench.job?.released ?? undefined);
const isChangedSince = computed(() => released.value !== undefined && released.value.version !== bench.job!.version);
const mayDownload = ({ number, version, isRelease }: RevisionSummary): boolean =>
  number === 1 || isRelease || bench.job!.signOffs.some((s) => s.version === version) || (version === bench.job!.version && mayLeave.value);
const sayFigures = ({ stitches, trims, run }: Figures): string =>
  `${sayCount(stitches)} st, ${trims === 1 ? '1 trim' : `${sayCount(trims)} trims`}, ${sayTime(run.seconds)}`;

async function putBack({ number, version }: RevisionSummary): Promise<void> {
  isKeeping.value = true;
  try {
    await bench.putBackTo(version);
    notices.say(`Revision ${number} is on the bench again`, 'What was done since is taken back, step by step; undo brings it forth.');
  } catch (error) {
    notices.complain(error);
  } finally {
    isKeeping.value = false;
  }
}

async function keep(isRelease: boolean): Promise<void> {
  const job = bench.job;
  if (job === undefined) return;
  isKeeping.value = true;
  try {
    const name = isRelease ? 'Released' : 'Kept state';
    const revision = await api.keepRevision(job.id, { baseVersion: job.version, name, note: note.value, isRelease });
    const { number, version, figures } = revision;
    const release = isRelease ? { stage: 'released' as const, released: { number, version, figures } } : {};
    bench.job = { ...job, ...release, revisions: [...job.revisions, revision] };
    note.value = '';
    notices.say(`Revision ${revision.number} is kept`, 'Nothing overwrites it.');
  } catch (error) {
    notices.complain(error);
  } finally {
    isKeeping.value = false;
  }
}
</script>

<template>
  <main class="release">
    <section class="column" tabindex="0" aria-label="Settle and release">
      <h2>To settle first</h2>
      <p v-if="stops.length === 0" class="settled">
        <b>Nothing stands against sewing it.</b>
        <span v-if="others > 0">
          {{ others }} smaller findings are open under <router-link :to="{ name: 'audit' }">Audit</router-link>.</span
        >
      </p>
      <ul v-else class="stops">
        <li v-for="finding in stops" :key="finding.key">
          <SeverityMark severity="stop" />
          <span>
            <router-link :to="{ name: 'audit' }" @click="open(finding.key)">{{ finding.message }}</router-link>
            <small class="muted">{{ finding.fix ?? finding.advice }}</small>
          </span>
        </li>
      </ul>
      <p v-if="released && isChangedSince" class="since" role="status">
        <b>Revision {{ released.number }} was released: {{ sayFigures(released.figures) }}.</b>
        What is on the bench now is another: {{ sayFigures(bench.now!.view.figures) }}. It goes to the machine once it is released.
      </p>
      <h2>Files</h2>
      <SignOffForm v-if="stops.length > 0 && !signed" :is-saved="isSaved" />
      <p v-else-if="stops.length > 0 && signed" class="since">
        {{ signed.who }} answers for it: “{{ signed.reason }}”. That holds until the next step.
      </p>
      <ul class="files">
        <li v-for="format in FORMATS" :key="format.id">
          <span
            ><b class="format">{{ format.name }}</b> <small class="muted">{{ format.note }}</small></span
          >
          <v-btn
            :href="mayLeave ? api.exportAddress(bench.job!.id, format.id) : undefined"
            :disabled="!mayLeave"
            download
            :prepend-icon="mdiDownload"
            >Download {{ format.id.toUpperCase() }}</v-btn
          >
        </li>
      </ul>
      <p v-if="!isSaved" class="muted">Files can be taken once the last step is saved.</p>
      <h2>Keep a revision</h2>
      <v-textarea v-model="note" label="Note to go with it" rows="1" auto-grow maxlength="2000" />
      <div class="actions">
        <v-btn :loading="isKeeping" :disabled="!isSaved || stops.length > 0" @click="keep(true)">Release</v-btn>
        <v-btn variant="outlined" :loading="isKeeping" :disabled="!isSaved" @click="keep(false)">Keep without releasing</v-btn>
      </div>
      <ol class="revisions number">
        <li v-for="revision in [...(bench.job?.revisions ?? [])].reverse()" :key="revision.number">
          <b>{{ revision.number }}</b>
          <span
            >{{ revision.name }}<small v-if="revision.note" class="muted"> {{ revision.note }}</small></span
          >
          <span class="muted">{{ sayFigures(revision.figures) }}</span>
          <time class="muted" :datetime="revision.createdAt">{{
            new Date(revision.createdAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
          }}</time>
          <span class="acts">
            <a
              v-for="format in mayDownload(revision) ? FORMATS : []"
              :key="format.id"
              :href="api.revisionAddress(bench.job!.id, revision.number, format.id)"
              :aria-label="`Download revision ${revision.number} as ${format.id.toUpperCase()}`"
              download
              >{{ format.id.toUpperCase() }}</a
            >
            <button
              v-if="revision.version !== bench.job!.version"
              type="button"
              :disabled="!isSaved || isKeeping"
              :aria-label="`Put revision ${revision.number} back on the bench`"
              @click="putBack(revision)"
            >
              Put back
            </button>
            <span v-else class="muted">as it is now</span>
          </span>
        </li>
      </ol>
    </section>
    <section class="column sheet" tabindex="0" aria-label="For the machine">
      <h2>For the machine</h2>
      <dl class="number">
        <div>
          <dt>Cloth</dt>
          <dd>{{ target.fabric.name }}</dd>
        </div>
        <div>
          <dt>Place</dt>
          <dd>{{ target.garment?.name ?? 'not chosen' }}</dd>
        </div>
        <div>
          <dt>Hoop</dt>
          <dd>{{ target.hoop.name }}, field {{ target.hoop.width }} × {{ target.hoop.height }} mm</dd>
        </div>
        <div>
          <dt>Stabilizer</dt>
          <dd>{{ target.fabric.stabilizer }}</dd>
        </div>
        <div>
          <dt>Topping</dt>
          <dd>{{ target.fabric.topping || 'none' }}</dd>
        </div>
        <div>
          <dt>Thread</dt>
          <dd>{{ target.thread.name }}, needle {{ target.thread.needle }}</dd>
        </div>
        <div>
          <dt>Pieces</dt>
          <dd>{{ sayCount(target.quantity) }}</dd>
        </div>
      </dl>
      <h2>Threads</h2>
      <table class="number">
        <thead>
          <tr>
            <th scope="col">thread</th>
            <th scope="col">put on</th>
            <th scope="col">stitches</th>
            <th scope="col">a piece</th>
            <th scope="col">the order</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="color in colors" :key="color.color + color.name">
            <th scope="row"><i :style="{ background: color.color }" />{{ color.name || color.color }}</th>
            <td>{{ color.blocks }} ×</td>
            <td>{{ sayCount(color.stitches) }}</td>
            <td>{{ color.threadM.toFixed(1) }} m</td>
            <td>{{ color.cones.toFixed(2) }} cones</td>
          </tr>
        </tbody>
      </table>
      <h2>Cautions</h2>
      <ul class="cautions">
        <li v-for="caution in CAUTIONS" :key="caution">{{ caution }}</li>
      </ul>
    </section>
  </main>
</template>

<style scoped>
.format {
  display: inline-block;
}

.format::first-letter {
  text-transform: uppercase;
}

.release {
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
  min-height: 0;
}

.column {
  display: grid;
  gap: 11px;
  align-content: start;
  padding: 22px 28px;
  overflow-y: auto;
}

.sheet {
  background: var(--card);
  border-left: 1px solid var(--line);
}

h2 {
  margin-top: 8px;
  font-size: 15px;
  font-weight: 600;
}

.settled b {
  color: var(--gain);
}

.stops li,
.files li {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}

.files li {
  justify-content: space-between;
}

small {
  display: block;
  font-size: 12px;
}

a:not(.v-btn) {
  color: var(--sea);
}

.actions {
  display: flex;
  gap: 8px;
}

.revisions li {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) auto 140px;
  gap: 2px 10px;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}

.revisions time {
  text-align: right;
}

.revisions .acts {
  display: flex;
  gap: 14px;
  grid-column: 2 / 5;
  font-size: 12.5px;
}

.revisions .acts :is(a, button) {
  padding: 0;
  border: 0;
  background: none;
  color: var(--sea);
  font: inherit;
  font-weight: 500;
  text-decoration: underline;
  text-underline-offset: 2px;
  cursor: pointer;
}

.since {
  padding: 8px 10px;
  border-left: 3px solid var(--fix);
  background: #f8eeda;
}

dl div {
  display: grid;
  grid-template-columns: 92px 1fr;
  padding: 2px 0;
}

dt {
  color: var(--ink-2);
}

table {
  border-collapse: collapse;
}

th,
td {
  padding: 4px 0;
  text-align: right;
  font-weight: 400;
  border-bottom: 1px solid var(--line-soft);
}

thead th {
  color: var(--ink-2);
  font-size: 12px;
}

th:first-child {
  text-align: left;
}

th i {
  display: inline-block;
  width: 14px;
  height: 14px;
  margin-right: 9px;
  border-radius: 50%;
  vertical-align: -2px;
  box-shadow: inset 0 0 0 1px rgb(0 0 0 / 18%);
}

.cautions li {
  padding: 4px 0 4px 12px;
  border-left: 3px solid var(--fix);
  margin-bottom: 5px;
}
</style>
