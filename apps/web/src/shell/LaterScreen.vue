<script setup lang="ts">
defineProps<{ title: string; what: readonly string[] }>();
</script>

<template>
  <main class="later">
    <h2>{{ title }}</h2>
    <p class="muted">Not built yet. What will be here:</p>
    <ul>
      <li v-for="line in what" :key="line">{{ line }}</li>
    </ul>
    <p><v-btn variant="outlined" :to="{ name: 'audit' }">Back to the findings</v-btn></p>
  </main>
</template>

<style scoped>
.later {
  padding: 48px 64px;
  max-width: 720px;
}

h2 {
  font-size: 20px;
  font-weight: 600;
}

ul {
  margin: 12px 0 22px;
}

li {
  padding: 6px 0 6px 14px;
  border-left: 3px solid var(--sea);
  margin-bottom: 6px;
}
</style>
