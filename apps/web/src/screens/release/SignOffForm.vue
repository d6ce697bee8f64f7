<script setup lang="ts">
import { computed, ref } from 'vue';
import { api } from '../../api/client.ts';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';

/** A file that something stands against goes out only under somebody's name and reason. */
const props = defineProps<{ isSaved: boolean }>();
const bench = useBench();
const notices = useNotices();
const who = ref('');
const reason = ref('');
const isSigning = ref(false);
const canSign = computed(() => props.isSaved && who.value.trim() !== '' && reason.value.trim().length >= 3);

async function sign(): Promise<void> {
  const { job } = bench;
  if (job === undefined || !canSign.value) return;
  isSigning.value = true;
  try {
    const signed = await api.sign(job.id, { baseVersion: job.version, who: who.value, reason: reason.value });
    bench.job = { ...job, signOffs: [...job.signOffs, signed] };
    reason.value = '';
  } catch (error) {
    notices.complain(error);
  } finally {
    isSigning.value = false;
  }
}
</script>

<template>
  <form class="sign" aria-label="Sign for it" @submit.prevent="sign">
    <p>What stands against it can hurt someone or spoil the piece. A file leaves all the same once somebody answers for it.</p>
    <div class="fields">
      <v-text-field v-model="who" label="Who" maxlength="200" />
      <v-text-field v-model="reason" label="Because…" maxlength="2000" />
      <v-btn type="submit" variant="outlined" :loading="isSigning" :disabled="!canSign">Sign</v-btn>
    </div>
  </form>
</template>

<style scoped>
.sign {
  display: grid;
  gap: 9px;
  padding: 10px 12px;
  border-left: 3px solid var(--stop);
  background: #fbe9e4;
}

.fields {
  display: grid;
  grid-template-columns: minmax(100px, 0.6fr) minmax(0, 1fr) auto;
  gap: 9px;
  align-items: center;
}
</style>
