<script setup lang="ts">
import type { AuditDetail, AuditSummary } from '@isola/contract';
import { rankFiles } from '@isola/core';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../../api/client.ts';
import { sayTime } from '../../bench/figures/sayFigures.ts';
import PageHead from '../../shell/PageHead.vue';
import FileTable from './FileTable.vue';
import { useAudits } from '../../stores/audits.ts';
import { useNotices } from '../../stores/notices.ts';
import { useAct } from '../../stores/useAct.ts';

/** The files of an audit as one table, what saves most machine time first, while workers judge the rest. */
const props = defineProps<{ id: string }>();
const store = useAudits();
const notices = useNotices();
const router = useRouter();
const { isBusy, act } = useAct();

const audit = shallowRef<AuditDetail>();
const failure = ref('');
/** The table is asked for anew no more often than this, ms. */
const TABLE_EVERY = 1500;
let source: EventSource | undefined;
let timer: ReturnType<typeof setTimeout> | undefined;

watch(
  () => props.id,
  () => void open(),
  { immediate: true },
);
onBeforeUnmount(close);

const sending = computed(() => (store.sending?.auditId === props.id ? store.sending : undefined));
const rows = computed(() => {
  const files = (audit.value?.files ?? []).map((file) => ({ ...file, audit: file.audit ?? undefined, problem: file.problem ?? undefined }));
  return rankFiles(files.filter(({ state }) => state === 'done' || state === 'failed'));
});
const total = computed(() => {
  const { waiting, done, failed, cancelled } = audit.value?.counts ?? { waiting: 0, done: 0, failed: 0, cancelled: 0 };
  return { judged: done + failed, all: Math.max(waiting + done + failed + cancelled, sending.value?.of ?? 0), failed, cancelled, waiting };
});
const isRunning = computed(() => audit.value !== undefined && !audit.value.isCancelled && total.value.judged < total.value.all);
const saved = computed(() => rows.value.reduce((sum, row) => sum + (row.audit?.saves ?? 0), 0));

async function open(): Promise<void> {
  close();
  audit.value = undefined;
  failure.value = '';
  try {
    audit.value = await api.audit(props.id);
    watchIt();
  } catch (error) {
    failure.value = error instanceof Error ? error.message : String(error);
  }
}

function watchIt(): void {
  source?.close();
  source = new EventSource(`/api/audits/${props.id}/events`);
  source.addEventListener('audit', (event) => {
    const summary = JSON.parse(event.data as string) as AuditSummary;
    if (audit.value !== undefined) audit.value = { ...audit.value, ...summary };
    if (summary.counts.waiting === 0) {
      // Nothing waits: files may still be on their way, else that was all.
      source?.close();
      timer ??= setTimeout(() => void refresh(), 0);
    } else timer ??= setTimeout(() => void refresh(), TABLE_EVERY);
  });
}

async function refresh(): Promise<void> {
  timer = undefined;
  try {
    audit.value = await api.audit(props.id);
  } catch (error) {
    notices.complain(error);
  }
  if (sending.value !== undefined && source?.readyState === EventSource.CLOSED) watchIt();
}

function close(): void {
  source?.close();
  clearTimeout(timer);
  timer = undefined;
}

const cancel = (): Promise<void> =>
  act(async () => {
    await store.cancel(props.id);
    await refresh();
  });

const resume = (): Promise<void> =>
  act(async () => {
    await api.resumeAudit(props.id);
    watchIt();
  });

const takeIn = (seq: number): Promise<void> =>
  act(async () => {
    const job = await api.takeInFromAudit(props.id, seq);
    await router.push({ name: 'audit', params: { id: job.id } });
  });
</script>

<template>
  <div class="audit">
    <PageHead>
      <div class="title">
        <h1>{{ audit?.name ?? 'Opening…' }}</h1>
        <p v-if="audit" class="muted">
          {{ audit.target.fabric.name }} · {{ audit.target.garment?.name ?? 'no place' }} · {{ audit.target.thread.name }} ·
          {{ audit.target.machine.name }}
        </p>
      </div>
      <a v-if="rows.length > 0" class="table" :href="api.auditTableAddress(id)" download>Table as CSV</a>
      <v-btn variant="text" :to="{ name: 'audits' }">All folders</v-btn>
    </PageHead>
    <main v-if="failure" class="state" role="alert">
      <b>This audit cannot be shown</b>
      <p>{{ failure }}</p>
      <v-btn class="mt-3" @click="open">Try again</v-btn>
    </main>
    <main v-else-if="audit">
      <div class="how" role="status">
        <p class="number">
          <b>{{ total.judged }} of {{ total.all }} judged</b>{{ total.failed > 0 ? `, ${total.failed} could not be` : ''
          }}{{ audit.isCancelled ? ', the rest cancelled' : '' }}.
          <template v-if="rows.length > 0">Repairs would save {{ sayTime(saved) }} on one piece of each: an estimate.</template>
        </p>
        <v-progress-linear
          v-if="isRunning"
          :model-value="(100 * total.judged) / Math.max(1, total.all)"
          color="primary"
          height="4"
          rounded
          aria-label="Files judged"
        />
        <span class="ways">
          <v-btn v-if="isRunning" variant="outlined" size="small" :disabled="isBusy" @click="cancel">Cancel the rest</v-btn>
          <v-btn
            v-if="isRunning && !sending"
            variant="text"
            size="small"
            :disabled="isBusy"
            title="Puts the files that wait into the queue once more"
            @click="resume"
            >Nothing happens?</v-btn
          >
        </span>
        <p v-for="{ path, why } in sending?.lost ?? []" :key="path" class="bad">{{ path }} did not arrive: {{ why }}</p>
      </div>
      <FileTable v-if="rows.length > 0" :rows="rows" :is-busy="isBusy" @take-in="takeIn" />
      <p v-else-if="isRunning" class="state muted">The first files are being judged…</p>
      <p v-else class="state muted">No file was judged.</p>
    </main>
  </div>
</template>

<style scoped>
.audit {
  display: grid;
  grid-template-rows: 58px minmax(0, 1fr);
  height: 100vh;
}

.title {
  flex: 1 1 0;
  min-width: 0;
  line-height: 1.25;
}

h1 {
  font-size: 17px;
  font-weight: 600;
}

.title p {
  font-size: 12px;
}

main {
  overflow-y: auto;
  padding: 14px 24px 32px;
}

.how {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding-bottom: 10px;
}

.bad {
  color: var(--stop);
}

.state {
  padding: 56px 24px;
  text-align: center;
}
</style>
