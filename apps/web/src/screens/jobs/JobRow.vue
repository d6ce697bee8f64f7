<script setup lang="ts">
import { useSession } from '../../stores/session.ts';
import type { JobSummary } from '@isola/contract';
import { SEVERITIES } from '@isola/core';
import { mdiTrashCanOutline } from '@mdi/js';
import { computed } from 'vue';
import SeverityMark from '../../bench/docket/SeverityMark.vue';
import { sayCount, sayHours, sayTime } from '../../bench/figures/sayFigures.ts';
import { expectJob } from '../../stores/loadJob.ts';
import { isHeld, useOutbox } from '../../stores/outbox.ts';
import JobPicture from './JobPicture.vue';
import { sayDue } from './sayDue.ts';
import { sayStage } from './sayStage.ts';

const props = defineProps<{ job: JobSummary }>();
const outbox = useOutbox();
defineEmits<{ remove: [] }>();

/** Steps of this job that were made here and are not on the server. */
const unsent = computed(() => {
  const queue = outbox.queues.get(props.job.id);
  if (queue === undefined) return '';
  const count = queue.entries.length === 1 ? '1 step' : `${queue.entries.length} steps`;
  return isHeld(queue.state) ? `${count} to settle` : `${count} not saved yet`;
});
const saved = computed(() => props.job.before.run.seconds - props.job.now.run.seconds);
const stage = computed(() => sayStage(props.job));
const due = computed(() => sayDue(props.job.due, new Date()));
const session = useSession();
const link = computed(() => ({
  name: session.role === 'operator' ? 'release' : props.job.stage === 'taken-in' && props.job.version === 0 ? 'take-in' : 'audit',
  params: { id: props.job.id },
}));
const counts = computed(() =>
  SEVERITIES.filter((s) => props.job.findings[s] > 0).map((severity) => ({ severity, count: props.job.findings[severity] })),
);
</script>

<template>
  <li class="job">
    <router-link :to="link" class="whole" @pointerdown="expectJob(job.id)">
      <JobPicture :job="job" />
      <div class="who">
        <h2>{{ job.name }}</h2>
        <p class="muted">{{ job.customer || 'no customer noted' }}</p>
        <p class="muted small">{{ job.target.fabric.name }} · {{ job.target.garment?.name ?? 'no place' }} · {{ job.fileName }}</p>
      </div>
      <div class="due" :class="{ soon: due.isSoon }">
        <b>{{ due.text }}</b>
        <p v-if="unsent" class="unsent small">{{ unsent }}</p>
        <p v-else class="muted small">
          {{ stage.text }}<template v-if="stage.more"><br />{{ stage.more }}</template>
        </p>
      </div>
      <div v-if="job.practice === 'open'" class="findings muted small">practice: find them</div>
      <div v-else class="findings">
        <span v-for="{ severity, count } in counts" :key="severity"><SeverityMark :severity="severity" :number="count" /></span>
        <span v-if="counts.length === 0" class="gain">nothing open</span>
      </div>
      <dl class="figures number">
        <div>
          <dd>{{ sayTime(job.now.run.seconds) }}</dd>
          <dt>a piece</dt>
        </div>
        <div>
          <dd>{{ sayCount(job.now.stitches) }}</dd>
          <dt>stitches</dt>
        </div>
        <div>
          <dd>{{ sayCount(job.target.quantity) }}</dd>
          <dt>pieces</dt>
        </div>
      </dl>
      <div class="saved number">
        <template v-if="Math.abs(saved) >= 1">
          <b :class="saved > 0 ? 'gain' : 'loss'">{{ saved > 0 ? '−' : '+' }}{{ sayTime(saved) }}</b>
          <p class="muted small">{{ sayHours(saved * job.target.quantity) }} {{ saved > 0 ? 'less' : 'more' }} on the order</p>
        </template>
        <span v-else class="muted small">nothing saved yet</span>
      </div>
    </router-link>
    <v-btn
      v-if="session.mayEdit"
      class="remove"
      icon
      variant="text"
      size="x-small"
      color="secondary"
      :aria-label="`Delete ${job.name}`"
      @click="$emit('remove')"
      ><v-icon :icon="mdiTrashCanOutline"
    /></v-btn>
  </li>
</template>

<style scoped>
.unsent {
  color: var(--stop);
  font-weight: 600;
}

.job {
  position: relative;
  border-bottom: 1px solid var(--line);
}

.whole {
  display: grid;
  grid-template-columns: 140px minmax(200px, 460px) 150px 116px minmax(236px, 330px) minmax(130px, 220px);
  gap: 20px;
  justify-content: space-between;
  align-items: center;
  padding: 9px 48px 9px 24px;
  color: inherit;
  text-decoration: none;
}

.whole:hover {
  background: var(--card);
}

.whole:focus-visible {
  outline-offset: -2px;
}

h2 {
  font-size: 16px;
  font-weight: 600;
}

.small {
  font-size: 12px;
}

.soon b {
  color: var(--stop);
}

.findings {
  display: flex;
  gap: 8px;
}

/* On a tablet what is saved gives way to what is to be sewn. */
@media (max-width: 1099px) {
  .whole {
    grid-template-columns: 140px minmax(180px, 1fr) 140px 100px minmax(220px, 260px);
  }

  .saved {
    display: none;
  }
}

.figures {
  display: grid;
  grid-template-columns: 1fr 1fr 0.8fr;
  gap: 10px;
}

.figures dd {
  font-size: 17px;
  font-weight: 600;
}

.figures dt {
  font-size: 12px;
  color: var(--ink-2);
}

.saved b {
  font-size: 17px;
  font-weight: 600;
}

.remove {
  position: absolute;
  right: 12px;
  top: 50%;
  transform: translateY(-50%);
  opacity: 0.55;
}

.remove:hover,
.remove:focus-visible {
  opacity: 1;
}
</style>
