<script setup lang="ts">
import { FORMATS } from '@isola/core';
import { mdiDownload } from '@mdi/js';
import { computed, ref } from 'vue';
import { api } from '../../api/client.ts';
import SeverityMark from '../../bench/docket/SeverityMark.vue';
import { sayPiece } from '../../bench/figures/sayFigures.ts';
import MachineSheet from './MachineSheet.vue';
import RevisionList from './RevisionList.vue';
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

function open(key: string): void {
  viewing.selected = key;
}

/** Whether files may leave as they are now. */
const signed = computed(() => bench.job?.signOffs.findLast((s) => s.version === bench.job!.version));
const mayLeave = computed(() => isSaved.value && (stops.value.length === 0 || signed.value !== undefined));
const released = computed(() => bench.job?.released ?? undefined);
const isChangedSince = computed(() => released.value !== undefined && released.value.version !== bench.job!.version);

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
        <b>Revision {{ released.number }} was released: {{ sayPiece(released.figures) }}.</b>
        What is on the bench now is another: {{ sayPiece(bench.now!.view.figures) }}. It goes to the machine once it is released.
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
        <li>
          <span
            ><b>Production sheet</b>
            <small class="muted">the design at true size, threads, stops, times and cautions, to print</small></span
          >
          <v-btn :href="isSaved ? api.sheetPdfAddress(bench.job!.id) : undefined" :disabled="!isSaved" download :prepend-icon="mdiDownload"
            >Download PDF</v-btn
          >
        </li>
      </ul>
      <p>
        <v-btn variant="outlined" :to="{ name: 'machine' }">Sew it on the simulated machine</v-btn>
      </p>
      <p v-if="!isSaved" class="muted">Files can be taken once the last step is saved.</p>
      <h2>Keep a revision</h2>
      <v-textarea v-model="note" label="Note to go with it" rows="1" auto-grow maxlength="2000" />
      <div class="actions">
        <v-btn :loading="isKeeping" :disabled="!isSaved || stops.length > 0" @click="keep(true)">Release</v-btn>
        <v-btn variant="outlined" :loading="isKeeping" :disabled="!isSaved" @click="keep(false)">Keep without releasing</v-btn>
      </div>
      <RevisionList :is-saved="isSaved" :may-leave="mayLeave" />
    </section>
    <MachineSheet />
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

.since {
  padding: 8px 10px;
  border-left: 3px solid var(--fix);
  background: #f8eeda;
}
</style>
