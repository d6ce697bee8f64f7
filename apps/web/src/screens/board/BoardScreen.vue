<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue';
import { listen } from '../../api/listen.ts';
import PageHead from '../../shell/PageHead.vue';
import { type BoardPlace, useBoard } from '../../stores/board.ts';
import { useAct } from '../../stores/useAct.ts';
import BoardHabits from './BoardHabits.vue';
import BoardLane from './BoardLane.vue';
import DayAxis from './DayAxis.vue';
import OrderCard from './OrderCard.vue';
import { sayDifference, sayLate, sayMoment, sayPieces } from './sayBoard.ts';

/** The week: which machine sews which order, and what is late. Orders are dragged, or moved by arrow keys. */
const board = useBoard();
const { isBusy, act } = useAct();
/** The order that is looked at, and the one that is being dragged, with where it would come to. */
const selected = ref<string>();
const dragged = ref<string>();
const over = ref<BoardPlace>();

onMounted(() => act(() => board.load()));
const reload = (): void => void board.load().catch(() => undefined);
onBeforeUnmount(listen({ hear: reload, lookAgain: reload }));

/** Pixels of a working minute: a week is seen at once. */
const DAY_WIDTH = 190;
const dayMinutes = computed(() => {
  const { from, to } = board.plan!.hours;
  const at = (clock: string): number => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));
  return at(to) - at(from);
});
const scale = computed(() => DAY_WIDTH / dayMinutes.value);
const names = computed(() => new Map(board.open.map(({ id, name }) => [id, name])));
const lanes = computed(() => (board.plan === undefined ? [] : board.lanesOf(board.plan)));
const width = computed(() => Math.max(6 * dayMinutes.value, (board.outcome?.ends ?? 0) + dayMinutes.value) * scale.value);

/** What dropping would do, in words. */
const preview = computed(() => {
  if (dragged.value === undefined || over.value === undefined || board.standing === undefined) return undefined;
  const is = board.weigh(dragged.value, over.value);
  const time = is.times.get(dragged.value);
  const done = time === undefined ? 'taken off the plan' : `done ${sayMoment(board.momentOf(time.ends))}`;
  return {
    words: `${names.value.get(dragged.value)}: ${done}. ${sayDifference(names.value, board.standing, is)}.`,
    isLater: is.late > board.standing.late + 1,
  };
});
const chosen = computed(() => board.open.find(({ id }) => id === selected.value));

/** Browsers drag only what holds something. */
function take(event: DragEvent, id: string): void {
  event.dataTransfer?.setData('text/plain', names.value.get(id) ?? '');
  dragged.value = id;
}

function drop(place: BoardPlace): void {
  const id = dragged.value;
  dragged.value = over.value = undefined;
  if (id !== undefined) void act(() => board.move(id, place));
}

/** Arrow keys: left and right in its lane, up and down to another machine. */
function onKey(event: KeyboardEvent, id: string): void {
  const machine = lanes.value.findIndex((lane) => lane.includes(id));
  const at = machine < 0 ? 0 : lanes.value[machine]!.indexOf(id);
  const ids = board.machines.map((one) => one.id);
  const places: Readonly<Record<string, BoardPlace | undefined>> = {
    ArrowLeft: machine >= 0 && at > 0 ? { machine: ids[machine], at: at - 1 } : undefined,
    ArrowRight: machine >= 0 && at < lanes.value[machine]!.length - 1 ? { machine: ids[machine], at: at + 2 } : undefined,
    ArrowUp: machine > 0 ? { machine: ids[machine - 1], at: Infinity } : undefined,
    ArrowDown: machine < ids.length - 1 ? { machine: ids[machine + 1], at: Infinity } : undefined,
    Delete: machine >= 0 ? { machine: undefined, at: 0 } : undefined,
  };
  const place = places[event.key];
  if (!(event.key in places)) return;
  event.preventDefault();
  if (place === undefined || isBusy.value) return;
  selected.value = id;
  void act(async () => {
    await board.move(id, place);
    document.querySelector<HTMLElement>(`[data-order="${id}"]`)?.focus();
  });
}
</script>

<template>
  <div class="shop-page">
    <PageHead>
      <h1>The week</h1>
      <p v-if="board.standing" class="number" :class="board.standing.late > 0 ? 'bad' : 'gain'" role="status">
        {{ sayLate(board.standing) }}
      </p>
      <span class="end">
        <v-btn v-if="board.before && !board.proposed" variant="text" :disabled="isBusy" @click="act(() => board.undo())"
          >Take the last change back</v-btn
        >
        <v-btn
          :loading="board.isPlanning"
          :disabled="board.open.length === 0 || board.proposed !== undefined"
          @click="act(() => board.propose())"
          >Propose a plan</v-btn
        >
      </span>
    </PageHead>
    <main v-if="board.plan && board.outcome">
      <div v-if="board.proposed" class="proposal" role="status">
        <span>
          <b>Proposed:</b> {{ sayLate(board.outcome) }}, all over {{ sayMoment(board.momentOf(board.outcome.ends)) }}. As it stands:
          {{ sayLate(board.standing!)
          }}<template v-if="board.standing!.times.size < board.outcome.times.size"
            >, {{ board.outcome.times.size - board.standing!.times.size }} not planned</template
          >.
        </span>
        <v-btn size="small" :disabled="isBusy" @click="act(() => board.takeUp())">Take it up</v-btn>
        <v-btn size="small" variant="text" @click="board.leave()">Leave it</v-btn>
      </div>
      <section
        class="waiting"
        :class="{ over: over && over.machine === undefined }"
        aria-label="Not planned"
        @dragover.prevent="over = { machine: undefined, at: 0 }"
        @drop.prevent="drop({ machine: undefined, at: 0 })"
      >
        <h2>
          Not planned <small class="muted number">{{ board.unplanned.length }}</small>
        </h2>
        <ul>
          <li v-for="job in board.unplanned" :key="job.id">
            <button
              type="button"
              class="order"
              draggable="true"
              :data-order="job.id"
              :aria-pressed="selected === job.id"
              @click="selected = job.id"
              @keydown="onKey($event, job.id)"
              @dragstart="take($event, job.id)"
              @dragend="dragged = over = undefined"
            >
              <b>{{ job.name }}</b>
              <small class="number"
                >{{ sayPieces(job.target.quantity)
                }}{{
                  job.due === null
                    ? ''
                    : `, due ${new Date(`${job.due}T12:00`).toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' })}`
                }}</small
              >
            </button>
          </li>
        </ul>
        <p v-if="board.unplanned.length === 0" class="muted small">
          {{ board.open.length === 0 ? 'No order is open.' : 'Every open order is on a machine.' }}
        </p>
      </section>
      <section class="lanes" tabindex="0" aria-label="Machines">
        <div :style="{ width: `${width + 148}px` }">
          <DayAxis :scale="scale" :until="width / scale" />
          <BoardLane
            v-for="(machine, m) in board.machines"
            :key="machine.id"
            :machine="machine"
            :lane="lanes[m] ?? []"
            :scale="scale"
            :selected="selected"
            :dragged="dragged"
            :over="over?.machine === machine.id ? over.at : undefined"
            @select="selected = $event"
            @key="onKey"
            @take="take"
            @let-go="dragged = over = undefined"
            @over="over = { machine: machine.id, at: $event }"
            @drop="drop({ machine: machine.id, at: $event })"
          />
        </div>
      </section>
      <footer>
        <p v-if="preview" class="preview" :class="{ bad: preview.isLater }" role="status">{{ preview.words }}</p>
        <OrderCard v-else-if="chosen" :job="chosen" @sewn="act(() => board.sewn(chosen!.id))" />
        <p v-else class="muted">
          Drag an order to a machine, or choose it and use the arrow keys. What that makes late is said before you let go.
        </p>
        <BoardHabits />
      </footer>
    </main>
    <p v-else class="muted wait" role="status">Reading the orders…</p>
  </div>
</template>

<style scoped src="./boardScreen.css"></style>
