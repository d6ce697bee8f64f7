<script setup lang="ts">
import type { StitchKind, StitchObject } from '@isola/core';
import { computed, nextTick, useTemplateRef, watch } from 'vue';
import type { VVirtualScroll } from 'vuetify/components';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';
import { sayCount } from '../figures/sayFigures.ts';
import ObjectFilters from './ObjectFilters.vue';
import { useListDrag } from './useListDrag.ts';
import { sayFigures, sayOtherReading, sayUnderlay, SURE } from './sayObject.ts';

const objects = useObjects();
const notices = useNotices();
const emit = defineEmits<{ pick: [] }>();
const scroller = useTemplateRef<InstanceType<typeof VVirtualScroll>>('scroller');

const unsure = computed(() => objects.objects.filter((o) => o.role === 'cover' && (o.kind === 'other' || o.confidence < SURE)).length);
const covers = computed(() => objects.objects.filter((o) => o.role === 'cover').length);
/** Height of a row, px. */
const ROW = 52;
const rows = computed(() => [...objects.listed]);

/** What is selected is in sight, also when more comes to be listed before it; where it is already, nothing moves under the pointer. */
watch([() => objects.selected, () => objects.listed], async ([object, listed]) => {
  const at = object === undefined ? -1 : listed.indexOf(object);
  if (at < 0) return;
  await nextTick();
  const view = scroller.value?.$el as HTMLElement | undefined;
  if (view !== undefined && at * ROW >= view.scrollTop && (at + 1) * ROW <= view.scrollTop + view.clientHeight) return;
  scroller.value?.scrollToIndex(Math.max(0, at - 2));
});

function pick(object: StitchObject, isMore: boolean): void {
  if (isMore) return objects.pickToo(object);
  objects.select(object === objects.selected ? undefined : object);
  emit('pick');
}
const { drop, canMove, take, hover, put } = useListDrag();

/** Takes the second reading of an object whose stitches can be read two ways: a step like any other. */
async function readOtherwise(object: StitchObject, as: StitchKind): Promise<void> {
  try {
    const why = await objects.tell(as, 'cover', object);
    if (why !== undefined) notices.say('Nothing was changed', why);
  } catch (error) {
    notices.complain(error);
  }
}
</script>

<template>
  <section class="list" aria-label="Objects">
    <header>
      <p class="head number">
        <span
          ><b>{{ covers }}</b> {{ covers === 1 ? 'object' : 'objects' }} in sewing order</span
        >
        <span :class="unsure > 0 ? 'doubt' : 'muted'">{{ unsure > 0 ? `${unsure} to look at` : 'all understood' }}</span>
      </p>
      <ObjectFilters v-if="objects.objects.length > 0" />
    </header>
    <v-virtual-scroll ref="scroller" class="rows" :items="rows" :item-height="ROW" item-key="id">
      <template #default="{ item }">
        <div
          class="entry"
          :class="{ before: drop?.before === item.id }"
          :draggable="canMove(item)"
          @dragstart="take($event, item)"
          @dragover="hover($event, item)"
          @drop="put($event)"
          @dragend="drop = undefined"
        >
          <button
            type="button"
            class="row"
            :class="{
              on: item === objects.selected,
              also: objects.picked.includes(item) && item !== objects.selected,
              under: item.role !== 'cover',
              two: item.otherReading,
            }"
            :aria-pressed="item === objects.selected || objects.picked.includes(item)"
            @click="pick(item, $event.ctrlKey || $event.metaKey || $event.shiftKey)"
          >
            <i class="swatch" :style="{ backgroundColor: item.color }" />
            <span class="name">{{ item.name }}</span>
            <span class="count number">{{ sayCount(item.stitches) }}</span>
            <span class="figures number muted" :title="item.underlay.length > 0 ? `on ${sayUnderlay(item)}` : undefined"
              ><span v-if="!item.otherReading && (item.kind === 'other' || item.confidence < SURE)" class="doubt">?</span>
              {{ sayFigures(item) }}</span
            >
          </button>
          <button
            v-if="item.otherReading"
            type="button"
            class="second"
            :title="sayOtherReading(item)"
            @click="readOtherwise(item, item.otherReading)"
          >
            or a {{ item.otherReading }}?
          </button>
        </div>
      </template>
    </v-virtual-scroll>
    <p v-if="drop" class="dropping" role="status">{{ drop.words }}</p>
    <p v-if="objects.known && objects.listed.length === 0" class="empty muted">
      {{
        objects.objects.length === 0
          ? 'Nothing is sewn yet. Draw it: Shape, Draw.'
          : 'No object fits what is chosen above. Take a choice back to see more.'
      }}
    </p>
  </section>
</template>

<style scoped>
.list {
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: var(--card);
  border-right: 1px solid var(--line);
}

header {
  padding: 10px 14px;
  border-bottom: 1px solid var(--line);
  background: var(--paper);
}

.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  min-height: 24px;
}

.swatch {
  width: 16px;
  height: 16px;
  padding: 0;
  border: 1px solid rgba(20, 38, 43, 0.35);
  border-radius: 4px;
}

.rows {
  flex: 1;
  min-height: 0;
}

.row {
  position: relative;
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: 0 9px;
  align-content: center;
  width: 100%;
  height: 52px;
  padding: 0 14px;
  border: 0;
  border-bottom: 1px solid var(--line-soft);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}

.entry {
  position: relative;
}

.entry.before::before {
  content: '';
  position: absolute;
  z-index: 1;
  inset: -1.5px 0 auto;
  height: 3px;
  background: var(--sea);
}

.dropping {
  padding: 7px 14px;
  border-top: 1px solid var(--line);
  background: var(--ink);
  color: var(--card);
  font-size: 12px;
}

.row.two .figures {
  padding-right: 78px;
}

.second {
  position: absolute;
  right: 10px;
  bottom: 7px;
  padding: 0 5px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--card);
  color: var(--fix);
  font: inherit;
  font-size: 12px;
  cursor: pointer;
}

.second:hover {
  border-color: var(--fix);
}

.row:hover {
  background: var(--paper);
}

.row.on {
  background: var(--sea-soft);
  box-shadow: inset 3px 0 var(--sea);
}

.row.also {
  background: var(--sea-soft);
}

.row:focus-visible {
  outline-offset: -2px;
}

.row .swatch {
  grid-row: 1 / 3;
  align-self: center;
}

.row.under .name {
  padding-left: 10px;
  color: var(--ink-2);
  font-weight: 400;
}

.row.under .figures {
  padding-left: 10px;
}

.name {
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.name::first-letter {
  text-transform: uppercase;
}

.figures {
  grid-column: 2 / 4;
  overflow: hidden;
  font-size: 12px;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.count {
  font-weight: 500;
}

.doubt {
  color: var(--fix);
  font-weight: 600;
}

.empty {
  padding: 16px 14px;
}
</style>
