<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { useSession } from '../../stores/session.ts';
import DoorFrame from './DoorFrame.vue';

/** Where the server asks who somebody is, in place of whatever page they came to; that is there once they are in. */
const session = useSession();
const name = ref('');
const password = ref('');
const problem = ref<string>();
const isBusy = ref(false);
const field = ref<{ focus: () => void }>();
onMounted(() => field.value?.focus());

async function signIn(): Promise<void> {
  isBusy.value = true;
  problem.value = undefined;
  try {
    await session.signIn(name.value, password.value);
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error);
  } finally {
    password.value = '';
    isBusy.value = false;
  }
}
</script>

<template>
  <DoorFrame title="Who is at the bench?">
    <form aria-label="Sign in" @submit.prevent="signIn">
      <v-text-field ref="field" v-model="name" label="Name" autocomplete="username" maxlength="200" />
      <v-text-field v-model="password" label="Password" type="password" autocomplete="current-password" maxlength="200" />
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <v-btn type="submit" :loading="isBusy" :disabled="name.trim() === '' || password === ''">Sign in</v-btn>
      <p class="muted">
        New here, or the password is lost? An owner of the shop gives you a link. Steps that are not saved yet are kept in this browser.
      </p>
    </form>
  </DoorFrame>
</template>

<style scoped src="./doorForm.css"></style>
