<script setup lang="ts">
import { type CheckId, checkRelease, checksLeft, FORMATS } from '@isola/core';
import { computed, ref, watch } from 'vue';
import { api } from '../../api/client.ts';
import { sayPiece } from '../../bench/figures/sayFigures.ts';
import CheckList from './CheckList.vue';
import FileLine from './FileLine.vue';
import MachineFiles from './MachineFiles.vue';
import MachineSheet from './MachineSheet.vue';
import RevisionList from './RevisionList.vue';
import { sayRebuilt } from './sayRebuilt.ts';
import { savePreview } from './savePreview.ts';
import SignOffForm from './SignOffForm.vue';
import { useBench } from '../../stores/bench.ts';
import { useAct } from '../../stores/useAct.ts';
import { useSession } from '../../stores/session.ts';
import { useShop } from '../../stores/shop.ts';
import { useNotices } from '../../stores/notices.ts';

const bench = useBench();
const shop = useShop();
const session = useSession();
const notices = useNotices();
const { isBusy: isDrawing, act: draw } = useAct();
const preview = (): Promise<void> => draw(() => savePreview(bench.now!.view, bench.job!.fileName.replace(/\.[^.]*$/, '')));
const note = ref('');
const isKeeping = ref(false);

const stops = computed(() => bench.openFindings.filter((f) => f.severity === 'stop'));
const isSaved = computed(() => bench.outgoing === undefined);

/** Whether files may leave as they are now. */
const signed = computed(() => bench.job?.signOffs.findLast((s) => s.version === bench.job!.version));
const mayLeave = computed(() => isSaved.value && (stops.value.length === 0 || signed.value !== undefined));
const released = computed(() => bench.job?.released ?? undefined);
const isReleased = computed(() => released.value !== undefined && released.value.version === bench.job!.version);
const isChangedSince = computed(() => released.value !== undefined && released.value.version !== bench.job!.version);

/** Reasons given for what is not settled by itself; they are about the design as it is now. */
const reasons = ref<Partial<Record<CheckId, string>>>({});
watch(
  () => bench.now?.view.program,
  () => (reasons.value = {}),
);
const checks = computed(() => {
  const { program, target: on } = bench.now!.view;
  return checkRelease(
    { program, target: on, kept: {} },
    stops.value.map(({ message }) => message),
  );
});
const left = computed(() => checksLeft(checks.value, { ...(signed.value && { stops: signed.value.reason }), ...reasons.value }));
const mayRelease = computed(() => isSaved.value && left.value.length === 0 && shop.who.trim() !== '' && !isReleased.value);
const rebuilt = computed(() => sayRebuilt(bench.now!.view.objects?.objects ?? []));

async function keep(isRelease: boolean): Promise<void> {
  const job = bench.job;
  if (job === undefined) return;
  isKeeping.value = true;
  try {
    const name = isRelease ? 'Released' : 'Kept state';
    const signature = isRelease ? { who: shop.who.trim(), reasons: reasons.value } : {};
    const revision = await api.keepRevision(job.id, { baseVersion: job.version, name, note: note.value, isRelease, ...signature });
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
      <h2>Check list</h2>
      <CheckList v-model="reasons" :checks="checks" :left="left" />
      <v-textarea v-if="session.mayEdit" v-model="note" label="Note to go with it" rows="1" auto-grow maxlength="2000" />
      <div class="actions">
        <template v-if="session.mayEdit">
          <v-btn :loading="isKeeping" :disabled="!mayRelease" @click="keep(true)">Release</v-btn>
          <v-btn variant="outlined" :loading="isKeeping" :disabled="!isSaved" @click="keep(false)">Keep without releasing</v-btn>
        </template>
        <span v-if="isReleased" class="muted">Released as revision {{ released!.number }}.</span>
        <span v-else-if="left.length > 0" class="muted">{{ left.length }} to settle</span>
      </div>
      <p v-if="released && isChangedSince" class="since" role="status">
        <b>Revision {{ released.number }} was released: {{ sayPiece(released.figures) }}.</b>
        What is on the bench now is another: {{ sayPiece(bench.now!.view.figures) }}. It goes to the machine once it is released.
      </p>
      <h2>Files</h2>
      <SignOffForm v-if="stops.length > 0 && !signed && session.mayEdit" :is-saved="isSaved" />
      <p v-else-if="stops.length > 0 && signed" class="since">
        {{ signed.who }} answers for it: “{{ signed.reason }}”. That holds until the next step.
      </p>
      <p class="muted">{{ rebuilt }}</p>
      <ul class="files">
        <FileLine
          v-for="format in FORMATS"
          :key="format.id"
          :name="format.name"
          :note="format.note"
          :ending="format.id"
          :address="api.exportAddress(bench.job!.id, format.id)"
          :is-disabled="!mayLeave"
        />
        <MachineFiles :may-leave="mayLeave" />
        <FileLine
          name="Production sheet"
          note="the design at true size, threads, stops, times and cautions, to print"
          ending="pdf"
          :address="api.sheetPdfAddress(bench.job!.id)"
          :is-disabled="!isSaved"
        />
        <FileLine
          name="Preview PNG"
          note="the design on its cloth, to send to a customer; a picture, not a sample"
          ending="png"
          :is-busy="isDrawing"
          @take="preview"
        />
      </ul>
      <p>
        <v-btn variant="outlined" :to="{ name: 'machine' }">Sew it on the simulated machine</v-btn>
      </p>
      <p v-if="!isSaved" class="muted">Files can be taken once the last step is saved.</p>
      <h2>Revisions</h2>
      <RevisionList :is-saved="isSaved" :may-leave="mayLeave" />
    </section>
    <MachineSheet />
  </main>
</template>

<style scoped>
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

a:not(.v-btn) {
  color: var(--sea);
}

.actions {
  display: flex;
  gap: 8px;
  align-items: center;
}

.since {
  padding: 8px 10px;
  border-left: 3px solid var(--fix);
  background: #f8eeda;
}
</style>
