<script setup lang="ts">
import type { CheckId, ReleaseCheck } from '@isola/core';
import { mdiCheck, mdiCircleOutline } from '@mdi/js';
import { computed } from 'vue';
import SeverityMark from '../../bench/docket/SeverityMark.vue';
import { useBench } from '../../stores/bench.ts';
import { useSession } from '../../stores/session.ts';
import { useShop } from '../../stores/shop.ts';
import { useViewing } from '../../stores/viewing.ts';

/** What is gone through before a file leaves: what is not settled by itself needs a reason, and the whole a name. */
const props = defineProps<{ checks: readonly ReleaseCheck[]; left: readonly ReleaseCheck[] }>();
const reasons = defineModel<Readonly<Partial<Record<CheckId, string>>>>({ required: true });
const bench = useBench();
const viewing = useViewing();
const shop = useShop();
const session = useSession();
const stops = computed(() => bench.openFindings.filter((f) => f.severity === 'stop'));
const others = computed(() => bench.openFindings.length - stops.value.length);
const isOpen = ({ id }: ReleaseCheck): boolean => props.left.some((check) => check.id === id);
/** Who took a file of this state answered for what stands against it already. */
const signed = computed(() => bench.job?.signOffs.findLast((s) => s.version === bench.job!.version));

function say(id: CheckId, reason: string): void {
  reasons.value = { ...reasons.value, [id]: reason };
}
</script>

<template>
  <section aria-label="Check list">
    <ul class="checks">
      <li v-for="check in checks" :key="check.id" :class="{ open: isOpen(check) }">
        <v-icon :icon="isOpen(check) ? mdiCircleOutline : mdiCheck" size="20" :aria-label="isOpen(check) ? 'open' : 'settled'" role="img" />
        <div>
          <b>{{ check.title }}<template v-if="check.id === 'stops' && check.isSettled">.</template></b>
          <ul v-if="check.id === 'stops' && stops.length > 0" class="stops">
            <li v-for="finding in stops" :key="finding.key">
              <SeverityMark severity="stop" />
              <span>
                <router-link :to="{ name: 'audit' }" @click="viewing.selected = finding.key">{{ finding.message }}</router-link>
                <small class="muted">{{ finding.fix ?? finding.advice }}</small>
              </span>
            </li>
          </ul>
          <p v-else-if="check.id === 'stops'" class="muted">
            <template v-if="others > 0"
              >{{ others }} smaller {{ others === 1 ? 'finding is' : 'findings are' }} open under
              <router-link :to="{ name: 'audit' }">Audit</router-link>.</template
            >
            <template v-else>No finding is open.</template>
          </p>
          <p v-else class="muted number">{{ check.found }}</p>
          <template v-if="!session.mayEdit" />
          <label v-else-if="check.id === 'cautions'" class="tick">
            <input
              type="checkbox"
              :checked="!isOpen(check)"
              @change="say('cautions', ($event.target as HTMLInputElement).checked ? 'read' : '')"
            />
            I have read them, and whoever sews it gets them with the sheet
          </label>
          <p v-else-if="check.id === 'stops' && signed" class="since">{{ signed.who }} answers for it: “{{ signed.reason }}”</p>
          <input
            v-else-if="!check.isSettled"
            class="reason"
            :value="reasons[check.id] ?? ''"
            maxlength="2000"
            :placeholder="check.id === 'stops' ? 'repair it, or release it all the same because…' : 'it may stay so because…'"
            :aria-label="`Why this may stay so: ${check.title}`"
            @input="say(check.id, ($event.target as HTMLInputElement).value)"
          />
        </div>
      </li>
    </ul>
    <v-text-field
      v-if="session.mayEdit"
      v-model="shop.who"
      class="who"
      :readonly="session.person !== undefined"
      label="Who releases it"
      maxlength="200"
    />
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
}

.checks > li {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr);
  gap: 8px;
  padding: 7px 0;
  border-bottom: 1px solid var(--line);
}

.checks > li > .v-icon {
  color: var(--gain);
}

.checks > .open > .v-icon {
  color: var(--fix);
}

b {
  font-weight: 600;
}

.stops li {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 6px 0;
}

small {
  display: block;
  font-size: 12px;
}

a {
  color: var(--sea);
}

.reason {
  width: 100%;
  margin-top: 4px;
  padding: 4px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  font: inherit;
}

.tick {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 2px;
}

.since {
  padding: 4px 8px;
  border-left: 3px solid var(--fix);
  background: #f8eeda;
}

.who {
  max-width: 320px;
}
</style>
