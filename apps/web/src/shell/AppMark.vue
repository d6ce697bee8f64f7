<script setup lang="ts">
import MarkSign from './MarkSign.vue';
</script>

<template>
  <router-link class="home" :to="{ name: 'jobs' }" aria-label="Isola: to the jobs">
    <MarkSign width="26" height="26" />
  </router-link>
</template>

<style scoped>
.home {
  display: grid;
}
</style>
