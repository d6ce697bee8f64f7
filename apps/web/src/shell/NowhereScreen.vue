<template>
  <main class="nowhere">
    <h1>There is nothing at this address</h1>
    <p class="muted">A job that was deleted, or a slip in the address.</p>
    <v-btn class="mt-4" :to="{ name: 'jobs' }">To the jobs</v-btn>
  </main>
</template>

<style scoped>
.nowhere {
  padding: 96px 64px;
}
</style>
