<script setup lang="ts">
import { widthAt } from '@isola/core';
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue';
import { useRoute } from 'vue-router';
import ClothView from '../../bench/cloth/ClothView.vue';
import type { ClothViewHandle } from '../../bench/cloth/handles.ts';
import { useBenchKeys } from '../../bench/useBenchKeys.ts';
import { useBench } from '../../stores/bench.ts';
import { useHistory } from '../../stores/history.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSewOuts } from '../../stores/sewOuts.ts';
import { useAct } from '../../stores/useAct.ts';
import LessonsPanel from './LessonsPanel.vue';
import PhotoLaying from './PhotoLaying.vue';
import PhotoOver from './PhotoOver.vue';
import PhotoStrip from './PhotoStrip.vue';
import PlaceMarks from './PlaceMarks.vue';
import SampleForm from './SampleForm.vue';
import SampleList from './SampleList.vue';

/** Samples of the job: what was sewn, what was found on it, what it taught. */
const bench = useBench();
const history = useHistory();
const sewOuts = useSewOuts();
const notices = useNotices();
const route = useRoute();
const { act } = useAct();
const cloth = useTemplateRef<ClothViewHandle>('cloth');
useBenchKeys({ fit: () => cloth.value?.fit(), zoomBy: (factor) => cloth.value?.zoomBy(factor) });

/** The place that is being read. */
const selected = ref<number>();
/** The photo that lies over the design, by its id, and how much of it is seen. */
const over = ref<string>();
const share = ref(0.7);
/** The photo that is being laid. */
const laying = ref<string>();
const photos = computed(() => sewOuts.record?.photos ?? []);
const shownOver = computed(() => photos.value.find(({ id, points }) => id === over.value && points !== null));
const beingLaid = computed(() => photos.value.find(({ id }) => id === laying.value));

onMounted(() => {
  const stopHistory = history.show();
  void act(async () => {
    await Promise.all([sewOuts.load(), history.load()]);
    await sewOuts.resume(typeof route.query['sample'] === 'string' ? route.query['sample'] : undefined);
  });
  onBeforeUnmount(() => {
    stopHistory();
    sewOuts.close();
  });
});

/** A width is measured where somebody points. */
function mark(x: number, y: number): void {
  const at = sewOuts.sampled;
  const draft = sewOuts.draft;
  if (at === undefined || draft === undefined) return;
  const near = draft.places.findIndex(({ from, to }) => Math.hypot((from.x + to.x) / 2 - x, (from.y + to.y) / 2 - y) < 1);
  if (near >= 0) return void (selected.value = near);
  const { program, target, objects } = at.view;
  const place = widthAt(program, objects?.objects ?? [], { ...target, fabric: draft.fabric }, { x, y });
  if (place === undefined)
    return notices.say('Nothing to measure here', 'Point at a fill or a satin: its width along the thread is taken.');
  sewOuts.change({ places: [...draft.places, place] });
  selected.value = draft.places.length;
}
</script>

<template>
  <main class="sew-outs">
    <section class="cloth" :aria-busy="sewOuts.isLooking">
      <PhotoLaying
        v-if="beingLaid && sewOuts.sampled"
        :photo="beingLaid"
        :shown="sewOuts.sampled.shown"
        @close="((over = laying), (laying = undefined))"
      />
      <ClothView
        v-else-if="sewOuts.sampled"
        ref="cloth"
        :shown="sewOuts.sampled.shown"
        kind="thread"
        :up-to="Infinity"
        channel="sew-outs"
        :label="`Revision ${sewOuts.draft?.revision} of ${bench.job?.name}, with the places that are measured. They are listed beside it.`"
        has-frame
        @pick="mark"
      >
        <template #default="{ view, size }">
          <PhotoOver v-if="shownOver" :photo="shownOver" :view="view" :size="size" :share="share" />
          <PlaceMarks
            v-if="sewOuts.draft"
            :places="sewOuts.draft.places"
            :selected="selected"
            :view="view"
            :size="size"
            @select="selected = $event"
          />
        </template>
      </ClothView>
      <p v-else class="muted wait" role="status">Laying the revision on the cloth…</p>
    </section>
    <aside tabindex="0" aria-label="Samples">
      <SampleList />
      <template v-if="sewOuts.draft && sewOuts.sampled">
        <SampleForm v-model:selected="selected" />
        <PhotoStrip v-if="sewOuts.record" v-model:over="over" v-model:share="share" @lay="laying = $event" />
        <LessonsPanel :key="sewOuts.draft.fabric.id + sewOuts.draft.machine.id" />
      </template>
    </aside>
  </main>
</template>

<style scoped>
.sew-outs {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 452px;
  min-height: 0;
}

.cloth {
  min-height: 0;
  min-width: 0;
}

.wait {
  padding: 64px;
}

aside {
  display: grid;
  gap: 16px;
  align-content: start;
  padding: 14px 18px 28px;
  overflow-y: auto;
  background: var(--card);
  border-left: 1px solid var(--line);
}
</style>
