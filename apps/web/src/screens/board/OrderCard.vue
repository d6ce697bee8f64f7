<script setup lang="ts">
import type { JobSummary } from '@isola/contract';
import { computed } from 'vue';
import { useBoard } from '../../stores/board.ts';
import { sayTime } from '../../bench/figures/sayFigures.ts';
import { sayStage } from '../jobs/sayStage.ts';
import { sayMinutes, sayMoment, sayPieces } from './sayBoard.ts';

/** An order in words: what it is, when it is done, how long it would take on each machine. */
const props = defineProps<{ job: JobSummary }>();
const emit = defineEmits<{ sewn: [] }>();
const board = useBoard();
const time = computed(() => board.outcome?.times.get(props.job.id));
const minutes = computed(() => board.planned.get(props.job.id)?.minutes ?? []);
</script>

<template>
  <section class="card" :aria-label="job.name">
    <div>
      <b>{{ job.name }}</b>
      <span class="muted number">
        {{ job.customer }}{{ job.customer ? ', ' : '' }}{{ sayPieces(job.target.quantity) }} of {{ sayTime(job.now.run.seconds) }};
        {{ sayStage(job).text.toLowerCase() }}
      </span>
      <p class="number">
        <template v-if="time">
          From {{ sayMoment(board.momentOf(time.begins)) }} to {{ sayMoment(board.momentOf(time.ends))
          }}<template v-if="time.late > 0"
            >, <b class="bad">{{ sayMinutes(time.late) }} late</b></template
          >.
        </template>
        <span v-for="(machine, m) in board.machines" :key="machine.id" class="on"
          >{{ machine.name }}: {{ sayMinutes(minutes[m] ?? 0) }}</span
        >
        <span class="muted"> Estimates.</span>
      </p>
    </div>
    <v-btn size="small" variant="outlined" :to="{ name: 'release', params: { id: job.id } }">Release</v-btn>
    <v-btn size="small" variant="text" @click="emit('sewn')">Sewn: off the board</v-btn>
  </section>
</template>

<style scoped>
.card {
  display: flex;
  flex: 1 1 700px;
  gap: 14px;
  align-items: center;
  min-width: 0;
}

.card > div {
  margin-right: auto;
}

.card > div > b {
  margin-right: 10px;
}

.on::before {
  content: ' · ';
  white-space: pre;
}

.bad {
  color: var(--lost);
}
</style>
