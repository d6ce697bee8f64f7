<script setup lang="ts">
import type { Role } from '@isola/contract';
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../../api/client.ts';
import { useSession } from '../../stores/session.ts';
import DoorFrame from './DoorFrame.vue';
import { ROLE_WORDS } from './roleWords.ts';

/** Where an invitation leads: a new person says their name and chooses a password. The link works once. */
const session = useSession();
const router = useRouter();
/** Behind the #, which browsers send to no server and write into no log. */
const token = window.location.hash.slice(1);
const invited = ref<{ role: Role; invitedBy: string }>();
const name = ref('');
const password = ref('');
const problem = ref<string>();
const isBusy = ref(false);
const LEAST = 10;

onMounted(async () => {
  try {
    invited.value = await api.invitation(token);
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error);
  }
});

async function join(): Promise<void> {
  isBusy.value = true;
  problem.value = undefined;
  try {
    await session.join(token, name.value, password.value);
    await router.replace({ name: 'jobs', hash: '' });
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <DoorFrame title="Come in">
    <form v-if="invited" aria-label="Come in" @submit.prevent="join">
      <p>{{ invited.invitedBy }} invites you as {{ ROLE_WORDS[invited.role].name }}: {{ ROLE_WORDS[invited.role].does }}.</p>
      <v-text-field v-model="name" label="Your name, as others read it" autocomplete="username" maxlength="200" />
      <v-text-field
        v-model="password"
        label="A password, ten characters or more"
        type="password"
        autocomplete="new-password"
        maxlength="200"
      />
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <v-btn type="submit" :loading="isBusy" :disabled="name.trim() === '' || password.length < LEAST">Come in</v-btn>
    </form>
    <template v-else-if="problem">
      <p class="problem" role="alert">{{ problem }}</p>
      <p class="muted">Ask who sent it for another link.</p>
      <v-btn variant="outlined" :to="{ name: 'jobs' }">Sign in</v-btn>
    </template>
    <p v-else class="muted" role="status">Looking at the invitation…</p>
  </DoorFrame>
</template>

<style scoped src="./doorForm.css"></style>
