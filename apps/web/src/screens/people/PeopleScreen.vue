<script setup lang="ts">
import { type Happening, type Invitation, type Person, type Role, ROLES } from '@isola/contract';
import { onMounted, ref, shallowRef } from 'vue';
import { api } from '../../api/client.ts';
import ChoiceField from '../../bench/fields/ChoiceField.vue';
import PageHead from '../../shell/PageHead.vue';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useAct } from '../../stores/useAct.ts';
import { sayHappening } from './sayHappening.ts';
import { ROLE_WORDS } from './roleWords.ts';

/** Who may come in and what they may do; for owners. And everybody’s own password and sessions. */
const session = useSession();
const notices = useNotices();
const { isBusy, act } = useAct();
const people = shallowRef<readonly Person[]>([]);
const invited = shallowRef<Invitation>();
const role = ref<Role>('digitizer');
const [old, password] = [ref(''), ref('')];
const choices = ROLES.map((one) => [one, ROLE_WORDS[one].name] as const);

onMounted(() => {
  if (session.role === 'owner' && session.hasAccounts) void act(async () => void (people.value = await api.people())).then(more);
});

/** Kept by the server for good; told so many at a time. */
const happened = shallowRef<readonly Happening[]>([]);
const hasMore = ref(false);
const more = (): Promise<void> =>
  act(async () => {
    const earlier = await api.happenings(happened.value.at(-1)?.seq);
    happened.value = [...happened.value, ...earlier];
    hasMore.value = earlier.length === 200;
  });

const invite = (): Promise<void> => act(async () => void (invited.value = await api.invite(role.value)));
const change = (id: string, more: { role?: Role; isOut?: boolean }): Promise<void> =>
  act(async () => void (people.value = await api.changePerson(id, more)));
const link = ({ token }: Invitation): string => `${window.location.origin}/join#${token}`;

const endSessions = ({ id, name }: Person): Promise<void> =>
  act(async () => {
    await api.endSessions(id);
    notices.say(`${name} is signed out everywhere`, 'On every machine the next thing that is done asks for the password.');
  });
const setPassword = (): Promise<void> =>
  act(async () => {
    await api.changePassword(old.value, password.value);
    [old.value, password.value] = ['', ''];
    notices.say('The password is another one', 'You are signed out on all other machines.');
  });
</script>

<template>
  <div class="shop-page">
    <PageHead><h1>People</h1></PageHead>
    <main>
      <section v-if="session.role === 'owner'" aria-label="Who may come in">
        <h2>Who may come in</h2>
        <table>
          <thead>
            <tr>
              <th scope="col">name</th>
              <th scope="col">role</th>
              <th scope="col">may</th>
              <th scope="col"><span class="visually-hidden">what is done with it</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in people" :key="one.id" :class="{ out: one.isOut }">
              <th scope="row">{{ one.name }}<small v-if="one.id === session.person?.id" class="muted"> you</small></th>
              <td>
                <ChoiceField
                  :label="`Role of ${one.name}`"
                  :value="one.role"
                  :choices="choices"
                  @change="change(one.id, { role: $event })"
                />
              </td>
              <td class="muted">{{ one.isOut ? 'nothing: shut out' : ROLE_WORDS[one.role].does }}</td>
              <td class="acts">
                <button type="button" class="in-words" :disabled="isBusy" @click="endSessions(one)">Sign out everywhere</button>
                <button type="button" class="in-words" :disabled="isBusy" @click="change(one.id, { isOut: !one.isOut })">
                  {{ one.isOut ? 'Let in again' : 'Shut out' }}
                </button>
              </td>
            </tr>
          </tbody>
        </table>
        <form class="invite" aria-label="Invite somebody" @submit.prevent="invite">
          <span>Invite somebody as</span>
          <ChoiceField label="Role of who is invited" :value="role" :choices="choices" @change="role = $event" />
          <v-btn type="submit" size="small" :loading="isBusy">Make a link</v-btn>
        </form>
        <div v-if="invited" class="link" role="status">
          <p>
            For one {{ ROLE_WORDS[invited.role].name }}, once, until
            {{ new Date(invited.expiresAt).toLocaleDateString('en-GB', { dateStyle: 'long' }) }}:
          </p>
          <input readonly :value="link(invited)" aria-label="The link" @focus="($event.target as HTMLInputElement).select()" />
        </div>
      </section>
      <section v-if="session.role === 'owner' && happened.length > 0" aria-label="What happened" class="happened">
        <h2>What happened</h2>
        <table class="number">
          <tbody>
            <tr v-for="one in happened" :key="one.seq">
              <td class="muted">{{ new Date(one.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' }) }}</td>
              <th scope="row">{{ one.who ?? 'nobody signed in' }}</th>
              <td>{{ sayHappening(one) }}</td>
              <td class="muted">{{ one.address }}</td>
            </tr>
          </tbody>
        </table>
        <v-btn v-if="hasMore" size="small" variant="text" :loading="isBusy" @click="more">Earlier</v-btn>
      </section>
      <section v-if="session.role === 'owner'" aria-label="Everything as open files">
        <h2>Everything as open files</h2>
        <p class="muted">
          Each design as it came and as it is now, its steps and revisions, samples with their photos, the shop’s records and what happened,
          in one archive that other programs read. Passwords are not in it.
        </p>
        <v-btn size="small" variant="outlined" href="/api/export" download>Take it</v-btn>
      </section>
      <section v-if="session.person" aria-label="Your own">
        <h2>{{ session.person.name }}, {{ ROLE_WORDS[session.person.role].name }}</h2>
        <form aria-label="Another password" @submit.prevent="setPassword">
          <v-text-field v-model="old" label="Password now" type="password" autocomplete="current-password" />
          <v-text-field v-model="password" label="Another one, ten characters or more" type="password" autocomplete="new-password" />
          <v-btn type="submit" size="small" variant="outlined" :loading="isBusy" :disabled="old === '' || password.length < 10"
            >Change it</v-btn
          >
        </form>
        <p class="own">
          <v-btn size="small" variant="outlined" @click="act(() => session.signOut())">Sign out here</v-btn>
          <v-btn size="small" variant="text" @click="act(() => session.signOut(true))">Sign out everywhere</v-btn>
        </p>
      </section>
      <section v-if="!session.hasAccounts">
        <h2>Nobody has to sign in</h2>
        <p class="muted">
          This server listens on this machine alone, and whoever is at it may do everything. Started for other machines too
          (docs/application.md), it asks who somebody is; the first owner gets a link from <code>npm run owner</code>.
        </p>
      </section>
    </main>
  </div>
</template>

<style scoped>
main {
  display: grid;
  gap: 36px;
  align-content: start;
  max-width: 980px;
  padding: 24px 32px 40px;
  overflow-y: auto;
}

section,
section form {
  display: grid;
  gap: 12px;
  align-content: start;
  justify-items: start;
}

section form {
  width: min(420px, 100%);
}

section form .v-input {
  width: 100%;
}

h2 {
  font-size: 18px;
  font-weight: 600;
}

table {
  width: 100%;
  border-collapse: collapse;
}

th,
td {
  padding: 7px 16px 7px 0;
  border-bottom: 1px solid var(--line);
  font-weight: 400;
  text-align: left;
}

thead th {
  color: var(--ink-2);
  font-size: 12px;
}

tbody th {
  font-weight: 600;
}

.out th,
.out td {
  color: var(--ink-3);
}

.acts button {
  margin-right: 14px;
  white-space: nowrap;
}

section .invite,
.own {
  display: flex;
  gap: 12px;
  align-items: center;
  width: auto;
}

.invite > span {
  white-space: nowrap;
}

.link {
  display: grid;
  gap: 6px;
  width: 100%;
  padding: 10px 12px;
  border-left: 3px solid var(--sea);
  background: var(--sea-soft);
}

.link input {
  width: 100%;
  padding: 5px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  font-family: 'IBM Plex Mono', ui-monospace, monospace;
  font-size: 12.5px;
}
</style>
