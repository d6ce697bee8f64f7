<script setup lang="ts">
import type { JobSummary } from '@isola/contract';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../../api/client.ts';
import PageHead from '../../shell/PageHead.vue';
import { useAct } from '../../stores/useAct.ts';
import JobPicture from '../jobs/JobPicture.vue';

/** Files with planted faults, to learn on: each is made of a design of the shop. */
/** Of a shop with more of them the first: what is due soonest is what people know. */
const jobs = shallowRef<readonly JobSummary[]>([]);
const router = useRouter();
const { isBusy, act } = useAct();
onMounted(() => act(async () => void (jobs.value = (await api.jobs()).jobs)));

const source = ref('');
const count = ref(3);
const sources = computed(() => jobs.value.filter(({ practice, now }) => practice === null && now.stitches > 0));
const practices = computed(() => jobs.value.filter(({ practice }) => practice !== null).reverse());

const begin = (): Promise<void> =>
  act(async () => {
    const job = await api.beginPractice(source.value, count.value);
    await router.push({ name: 'audit', params: { id: job.id } });
  });
const sayState = ({ practice }: JobSummary): string => (practice === 'judged' ? 'judged' : 'begun');
</script>

<template>
  <div class="shop-page">
    <PageHead><h1>Practice</h1></PageHead>
    <main>
      <form aria-label="A new practice" @submit.prevent="source !== '' && !isBusy && begin()">
        <h2>Find what is wrong</h2>
        <p class="muted">
          A design of the shop gets faults that real files have, each in an object of its own. You replay and measure it without the docket,
          say what is wrong and where, and mend it. Then you are told what you found, missed and broke, and why each matters. The job that
          it is made of stays as it is.
        </p>
        <fieldset>
          <legend>Made of</legend>
          <label v-for="job in sources" :key="job.id" :class="{ chosen: source === job.id }">
            <input v-model="source" type="radio" name="source" :value="job.id" class="visually-hidden" />
            <JobPicture :job="job" />
            <span>{{ job.name }}</span>
          </label>
        </fieldset>
        <p class="count">
          <label>Faults <input v-model.number="count" type="number" min="1" max="10" step="1" /></label>
          <v-btn type="submit" :disabled="source === '' || !(count >= 1 && count <= 10)" :loading="isBusy">Plant them and begin</v-btn>
          <span v-if="isBusy" class="muted" role="status"
            >Faults are planted, and each is looked for by the audit. That takes some seconds.</span
          >
        </p>
      </form>
      <section v-if="practices.length > 0" aria-label="Begun and judged">
        <h2>Begun and judged</h2>
        <ul>
          <li v-for="job in practices" :key="job.id">
            <router-link :to="{ name: 'audit', params: { id: job.id } }">{{ job.name.replace(/^Practice: /, '') }}</router-link>
            <span class="muted"
              >{{ sayState(job) }}, {{ new Date(job.createdAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' }) }}</span
            >
          </li>
        </ul>
      </section>
    </main>
  </div>
</template>

<style scoped>
main {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  gap: 40px;
  align-content: start;
  padding: 24px 32px 40px;
  overflow-y: auto;
}

form,
section {
  display: grid;
  gap: 14px;
  align-content: start;
}

h2 {
  font-size: 18px;
  font-weight: 600;
}

form p {
  max-width: 74ch;
}

fieldset {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(164px, 1fr));
  gap: 12px;
  padding: 0;
  border: 0;
}

legend {
  margin-bottom: 6px;
  color: var(--ink-2);
}

fieldset label {
  display: grid;
  gap: 6px;
  padding: 8px;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--card);
  cursor: pointer;
}

fieldset label:focus-within {
  outline: 2px solid var(--sea);
}

fieldset .chosen {
  border-color: var(--sea);
  box-shadow: 0 0 0 1px var(--sea);
}

.count {
  display: flex;
  gap: 16px;
  align-items: center;
}

.count input {
  width: 60px;
  padding: 4px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  font: inherit;
  text-align: right;
}

li {
  display: grid;
  padding: 7px 0;
  border-bottom: 1px solid var(--line);
}

a {
  color: var(--sea);
  font-weight: 500;
}
</style>
