<script setup lang="ts">
import type { Shop, ShopKind } from '@isola/contract';
import { computed } from 'vue';
import { headOf, RECORD_KINDS, recordsOf, sayValue } from './recordFields.ts';

/** A list of the shop as a table; a row is opened to be looked at and changed. */
const props = defineProps<{ shop: Shop; kind: ShopKind; openId: string | undefined }>();
const emit = defineEmits<{ open: [id: string] }>();

const fields = computed(() => RECORD_KINDS[props.kind].fields.filter(({ isLong }) => isLong !== true));
const records = computed(() => recordsOf(props.shop, props.kind));
/** Units stand in the head. */
const sayCell = (key: number, value: unknown): string => {
  const { unit: _, ...field } = fields.value[key]!;
  return sayValue(props.shop, field, value);
};
</script>

<template>
  <table class="number">
    <thead>
      <tr>
        <th v-for="field in fields" :key="field.key" scope="col" :class="field.as">{{ headOf(field) }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="record in records" :key="record.id" :class="{ open: record.id === openId }" @click="emit('open', record.id)">
        <th scope="row">
          <button type="button" :aria-expanded="record.id === openId" @click.stop="emit('open', record.id)">
            <i v-if="record.color" :style="{ background: String(record.color) }" />{{ record.name }}
          </button>
        </th>
        <td v-for="(field, k) in fields.slice(1)" :key="field.key" :class="field.as">{{ sayCell(k + 1, record[field.key]) }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}

th,
td {
  padding: 6px 10px 6px 0;
  text-align: left;
  font-weight: 400;
  border-bottom: 1px solid var(--line);
}

td.text,
td.choice {
  white-space: nowrap;
}

.number.number td.number,
th.number {
  text-align: right;
}

thead th {
  color: var(--ink-2);
  font-size: 12px;
  vertical-align: bottom;
}

tbody tr {
  cursor: pointer;
}

tbody tr:hover {
  background: var(--sea-soft);
}

tr.open {
  background: var(--card);
  box-shadow: inset 3px 0 0 var(--sea);
}

th[scope='row'] button {
  padding: 0 0 0 9px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-weight: 500;
  text-align: left;
  white-space: nowrap;
  cursor: pointer;
}

i {
  display: inline-block;
  width: 16px;
  height: 16px;
  margin-right: 9px;
  border-radius: 4px;
  vertical-align: -3px;
  box-shadow: inset 0 0 0 1px rgb(0 0 0 / 15%);
}
</style>
