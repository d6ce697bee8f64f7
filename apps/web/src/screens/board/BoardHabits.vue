<script setup lang="ts">
import { ShopHours } from '@isola/core';
import { useBoard } from '../../stores/board.ts';
import { useAct } from '../../stores/useAct.ts';

/** When machines are run, and how long hooping takes: what the times of the board rest on. */
const board = useBoard();
const { act } = useAct();
const DAYS = ['Su', 'Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa'] as const;
const ORDER = [1, 2, 3, 4, 5, 6, 0] as const;
const NAMES = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'] as const;

function setHours(more: Partial<ShopHours>): void {
  const read = ShopHours.safeParse({ ...board.plan!.hours, ...more });
  void act(() => (read.success ? board.change({ hours: read.data }) : Promise.reject(new Error(read.error.issues[0]!.message))));
}

function toggle(day: number): void {
  const { days } = board.plan!.hours;
  setHours({ days: days.includes(day) ? days.filter((one) => one !== day) : [...days, day].sort() });
}

function setHooping(event: Event): void {
  const minutes = Number((event.target as HTMLInputElement).value);
  if (minutes >= 0 && minutes <= 120) void act(() => board.change({ hooping: minutes }));
}
</script>

<template>
  <form class="habits number" aria-label="Hours and hooping" @submit.prevent>
    <span class="days" role="group" aria-label="Working days">
      <button
        v-for="day in ORDER"
        :key="day"
        type="button"
        :aria-pressed="board.plan!.hours.days.includes(day)"
        :aria-label="NAMES[day]"
        @click="toggle(day)"
      >
        {{ DAYS[day] }}
      </button>
    </span>
    <label
      >from <input type="time" :value="board.plan!.hours.from" @change="setHours({ from: ($event.target as HTMLInputElement).value })"
    /></label>
    <label
      >to <input type="time" :value="board.plan!.hours.to" @change="setHours({ to: ($event.target as HTMLInputElement).value })"
    /></label>
    <label
      >hooping, min <input class="short" type="number" min="0" max="120" step="0.5" :value="board.plan!.hooping" @change="setHooping"
    /></label>
    <label
      ><input
        type="checkbox"
        :checked="board.plan!.isHoopedAhead"
        @change="act(() => board.change({ isHoopedAhead: ($event.target as HTMLInputElement).checked }))"
      />
      while it sews</label
    >
  </form>
</template>

<style scoped>
.habits {
  display: flex;
  flex: none;
  gap: 12px;
  margin-left: auto;
  align-items: center;
  color: var(--ink-2);
  font-size: 12.5px;
}

label {
  display: flex;
  gap: 5px;
  align-items: center;
}

.days {
  display: flex;
}

.days button {
  padding: 3px 5px;
  border: 1px solid var(--line);
  border-right-width: 0;
  background: var(--paper);
  color: var(--ink-2);
  font: inherit;
  cursor: pointer;
}

.days button:first-child {
  border-radius: 6px 0 0 6px;
}

.days button:last-child {
  border-right-width: 1px;
  border-radius: 0 6px 6px 0;
}

.days button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--card);
}

input:not([type='checkbox']) {
  padding: 2px 4px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--paper);
  font: inherit;
}

.short {
  width: 52px;
  text-align: right;
}
</style>
