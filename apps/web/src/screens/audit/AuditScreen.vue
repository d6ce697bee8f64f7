<script setup lang="ts">
import { computed, onBeforeUnmount, ref, useTemplateRef } from 'vue';
import BenchCloth from '../../bench/BenchCloth.vue';
import FindingDocket from '../../bench/docket/FindingDocket.vue';
import FigureHead from '../../bench/figures/FigureHead.vue';
import type { ClothHandle } from '../../bench/cloth/handles.ts';
import PracticePanel from '../../bench/practice/PracticePanel.vue';
import SewTape from '../../bench/tape/SewTape.vue';
import { type DocketKeys, useBenchKeys } from '../../bench/useBenchKeys.ts';
import { whenThere } from '../../bench/whenThere.ts';
import { useBench } from '../../stores/bench.ts';
import { useLater } from '../../stores/useLater.ts';

const bench = useBench();
const isLater = useLater();
/** Who practises finds without the docket; once that is judged, either is shown. */
const isPractice = computed(() => bench.job?.practice === 'open' || (bench.job?.practice === 'judged' && !isDocketShown.value));
const isDocketShown = ref(false);
const cloth = useTemplateRef<ClothHandle>('cloth');
const docket = useTemplateRef<DocketKeys>('docket');
/** The docket works once findings are known. */
const withDocket = whenThere(() => (bench.isAudited ? docket.value : undefined));
const docketKeys: DocketKeys = {
  step: (by) => withDocket((keys) => keys.step(by)),
  attempt: () => withDocket((keys) => keys.attempt()),
  accept: () => withDocket((keys) => keys.accept()),
  keep: () => withDocket((keys) => keys.keep()),
  plan: () => withDocket((keys) => keys.plan()),
  free: () => withDocket((keys) => keys.free()),
};

useBenchKeys({
  fit: () => cloth.value?.fit(),
  zoomBy: (factor) => cloth.value?.zoomBy(factor),
  docket: () => (isPractice.value ? null : docketKeys),
});
onBeforeUnmount(() => bench.dropTrial());
</script>

<template>
  <main class="audit">
    <aside>
      <template v-if="isLater">
        <FigureHead
          v-if="bench.now"
          :now="bench.now.view.figures"
          :before="(bench.before ?? bench.now).view.figures"
          :trial="bench.trial?.shown.view.figures"
        />
        <p v-if="bench.job?.practice === 'judged'" class="which">
          <button type="button" class="in-words" @click="isDocketShown = !isDocketShown">
            {{ isDocketShown ? 'What came of the practice' : 'The docket of all that is left' }}
          </button>
        </p>
        <PracticePanel v-if="isPractice" />
        <FindingDocket v-else ref="docket" />
      </template>
    </aside>
    <BenchCloth ref="cloth" :has-marks="!isPractice" :has-objects="isPractice" />
    <div class="tape"><SewTape v-if="isLater" /></div>
  </main>
</template>

<style scoped>
.audit {
  display: grid;
  grid-template: minmax(0, 1fr) auto / 344px minmax(0, 1fr);
  min-height: 0;
}

aside {
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: var(--card);
  border-right: 1px solid var(--line);
}

.which {
  padding: 8px 16px 0;
}

.tape {
  grid-column: 1 / 3;
  height: var(--tape-height);
}
</style>
