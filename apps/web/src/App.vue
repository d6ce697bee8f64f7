<script setup lang="ts">
import { computed } from 'vue';
import { useOutbox } from './stores/outbox.ts';
import { useNotices } from './stores/notices.ts';
import { useSession } from './stores/session.ts';
import SignIn from './screens/people/SignIn.vue';
import { useRoute } from 'vue-router';

const notices = useNotices();
const outbox = useOutbox();
const session = useSession();
const route = useRoute();
void session.load();
void outbox.takeUp();
/** Closing a window with steps that are not saved asks first. */
window.addEventListener('beforeunload', (event) => outbox.unsentCount > 0 && event.preventDefault());
const isShown = computed({ get: () => notices.notice !== undefined, set: (value) => !value && notices.dismiss() });
</script>

<template>
  <v-app>
    <SignIn v-if="session.mustSignIn && route.name !== 'join'" />
    <router-view v-else-if="session.isKnown" />
    <v-snackbar
      v-model="isShown"
      :color="notices.notice?.kind === 'bad' ? 'error' : 'secondary'"
      :timeout="notices.notice?.kind === 'bad' ? 12000 : 4000"
      role="status"
    >
      <b>{{ notices.notice?.title }}</b>
      <div>{{ notices.notice?.text }}</div>
      <template #actions><v-btn variant="text" color="white" @click="notices.dismiss()">Close</v-btn></template>
    </v-snackbar>
  </v-app>
</template>
