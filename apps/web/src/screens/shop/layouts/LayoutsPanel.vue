<script setup lang="ts">
import type { Shop } from '@isola/contract';
import { type LayoutRecord, SIMULATED_LAYOUT } from '@isola/core';
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { saveFile } from '../../../api/saveFile.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useShop } from '../../../stores/shop.ts';
import { useAct } from '../../../stores/useAct.ts';
import { problemsOf } from '../recordFields.ts';
import SignatureFields from '../SignatureFields.vue';
import BytesView from './BytesView.vue';
import { checkText, tryLayout } from './checkText.ts';

/** How machines' own files stand in bytes: described as JSON, tried on a file while that is written. */
const props = defineProps<{ shop: Shop }>();
const store = useShop();
const notices = useNotices();
const { isBusy, act } = useAct();
const filePicker = useTemplateRef<HTMLInputElement>('filePicker');
const jsonPicker = useTemplateRef<HTMLInputElement>('jsonPicker');

const was = shallowRef<LayoutRecord>();
const id = ref('');
const text = ref('');
const extension = ref('');
const why = ref('');
/** The file that it is tried on; none: a sample that it writes itself. */
const file = shallowRef<{ readonly name: string; readonly bytes: Uint8Array }>();

const asText = (layout: object): string => JSON.stringify(layout, null, 2);
function open(record: LayoutRecord): void {
  [was.value, id.value, text.value, extension.value, why.value] = [record, record.id, asText(record.layout), record.extension, ''];
}
function begin(layout: string): void {
  [was.value, id.value, text.value, extension.value, why.value] = [undefined, crypto.randomUUID(), layout, '', ''];
}
watch(
  () => props.shop.layouts,
  (layouts) => {
    const same = layouts.find((one) => one.id === id.value);
    if (same !== undefined && id.value !== '') open(same);
    else if (id.value === '' && layouts[0] !== undefined) open(layouts[0]);
  },
  { immediate: true },
);

const checked = computed(() => checkText(text.value));
const record = computed(() =>
  checked.value.layout === undefined
    ? undefined
    : { id: id.value, name: checked.value.layout.name, extension: extension.value.trim().toLowerCase(), layout: checked.value.layout },
);
const problems = computed(() => {
  if (record.value === undefined) return checked.value.problems;
  const { extension: ending } = problemsOf('layouts', record.value);
  const other = props.shop.layouts.find((one) => one.id !== id.value && one.extension === record.value!.extension);
  return [
    ...(ending === undefined ? [] : [{ at: 'file ending', message: ending }]),
    ...(other === undefined ? [] : [{ at: 'file ending', message: `${other.name} has it already` }]),
  ];
});
const tried = computed(() => (checked.value.layout === undefined ? undefined : tryLayout(checked.value.layout, file.value)));
const isChanged = computed(
  () => was.value === undefined || extension.value !== was.value.extension || text.value !== asText(was.value.layout),
);
const canKeep = computed(
  () => record.value !== undefined && problems.value.length === 0 && isChanged.value && store.who.trim() !== '' && !isBusy.value,
);

const keep = (): Promise<void> =>
  act(async () => {
    await store.put('layouts', record.value!, was.value ?? null, why.value);
    const kept = props.shop.layouts.find((one) => one.id === id.value);
    if (kept !== undefined) open(kept);
    notices.say(
      `${record.value!.name} is kept`,
      `Files that end with .${record.value!.extension} can be taken in, and designs leave as such.`,
    );
  });
const remove = (): Promise<void> =>
  act(async () => {
    const { name, id: gone } = was.value!;
    id.value = '';
    await store.remove('layouts', gone, why.value);
    notices.say(`${name} was deleted`, 'Under Changes it can be put back.');
  });

async function takeFile(event: Event): Promise<void> {
  const [chosen] = (event.target as HTMLInputElement).files ?? [];
  if (chosen !== undefined) file.value = { name: chosen.name, bytes: new Uint8Array(await chosen.arrayBuffer()) };
  (event.target as HTMLInputElement).value = '';
}

async function takeJson(event: Event): Promise<void> {
  const [chosen] = (event.target as HTMLInputElement).files ?? [];
  if (chosen !== undefined) begin(await chosen.text());
  (event.target as HTMLInputElement).value = '';
}
</script>

<template>
  <section class="layouts" aria-label="Machine files">
    <div class="write">
      <p class="muted">
        A machine’s own file is described once, as records of bytes; then such files are taken in and written like any other. Lengths are in
        mm, steps in counts.
      </p>
      <div class="list" role="group" aria-label="Layouts">
        <button v-for="one in shop.layouts" :key="one.id" type="button" :aria-pressed="one.id === id" @click="open(one)">
          {{ one.name }} <small>.{{ one.extension }}</small>
        </button>
        <button type="button" :aria-pressed="was === undefined" @click="begin(asText({ ...SIMULATED_LAYOUT, name: 'my machine' }))">
          + new
        </button>
        <button type="button" @click="jsonPicker?.click()">open JSON</button>
        <input
          ref="jsonPicker"
          class="visually-hidden"
          type="file"
          accept=".json"
          tabindex="-1"
          aria-label="A layout as JSON"
          @change="takeJson"
        />
      </div>
      <textarea v-model="text" spellcheck="false" aria-label="The layout, as JSON" :aria-invalid="problems.length > 0" />
      <ul v-if="problems.length > 0" class="problems" role="status">
        <li v-for="(problem, k) in problems" :key="k">
          <b>{{ problem.at }}</b> {{ problem.message }}
        </li>
      </ul>
      <p v-else class="fine">Nothing in it contradicts itself.</p>
      <div class="fields">
        <v-text-field v-model="extension" label="Ending of its files, without the dot" maxlength="8" />
        <SignatureFields v-model="why" />
      </div>
      <div class="actions">
        <v-btn :disabled="!canKeep" :loading="isBusy" @click="keep">Keep it so</v-btn>
        <v-btn v-if="was && isChanged" variant="text" @click="open(was)">Back as it was</v-btn>
        <v-btn variant="text" @click="saveFile(`${checked.layout?.name ?? 'layout'}.json`, 'application/json', text)">Save as JSON</v-btn>
        <v-btn v-if="was" class="delete" variant="text" :disabled="isBusy || store.who.trim() === ''" @click="remove">Delete</v-btn>
      </div>
    </div>
    <div class="try">
      <header>
        <h2>Tried on {{ file?.name ?? 'a sample' }}</h2>
        <v-btn size="small" variant="outlined" @click="filePicker?.click()">Choose a file</v-btn>
        <v-btn v-if="file" size="small" variant="text" @click="file = undefined">A sample instead</v-btn>
        <input ref="filePicker" class="visually-hidden" type="file" tabindex="-1" aria-label="A file of the machine" @change="takeFile" />
      </header>
      <p v-if="tried === undefined" class="muted">
        As soon as nothing contradicts itself, the first records stand here beside their bytes.
      </p>
      <p v-else-if="typeof tried === 'string'" class="problems" role="status">{{ tried }}</p>
      <BytesView v-else :tried="tried" :layout="checked.layout!" />
    </div>
  </section>
</template>

<style scoped>
.layouts {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 28px;
  height: calc(100vh - 104px);
}

.write,
.try {
  display: grid;
  gap: 10px;
  align-content: start;
  min-height: 0;
}

.write {
  grid-template-rows: auto auto minmax(140px, 1fr) auto auto auto;
}

.try {
  grid-template-rows: auto minmax(0, 1fr);
}

header {
  display: flex;
  gap: 10px;
  align-items: center;
}

h2 {
  margin-right: auto;
  overflow: hidden;
  font-size: 14px;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.list {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

.list button {
  padding: 3px 10px;
  border: 1px solid var(--line);
  border-radius: 7px;
  background: var(--card);
  font: inherit;
  cursor: pointer;
}

.list button[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--ink);
  color: var(--card);
}

textarea {
  min-height: 0;
  padding: 10px 12px;
  border: 1px solid var(--line);
  border-radius: 8px;
  background: var(--card);
  font-family: 'IBM Plex Mono', ui-monospace, monospace;
  font-size: 12.5px;
  line-height: 1.45;
  resize: none;
  tab-size: 2;
}

.problems {
  max-height: 120px;
  overflow-y: auto;
  color: var(--stop);
}

.problems b {
  margin-right: 6px;
  font-weight: 600;
}

.fine {
  color: var(--gain);
}

.fields {
  display: grid;
  grid-template-columns: minmax(0, 0.7fr) minmax(0, 1.3fr);
  gap: 10px;
}

.actions {
  display: flex;
  gap: 8px;
}

.delete {
  margin-left: auto;
  color: var(--stop);
}
</style>
