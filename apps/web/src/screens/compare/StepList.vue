<script setup lang="ts">
/** Steps with what was said of them; where there is none, what stands in the slot. */
defineProps<{ title: string; steps: readonly { readonly name: string; readonly reason: string | null }[] }>();
</script>

<template>
  <section>
    <h3>{{ title }}</h3>
    <ol v-if="steps.length > 0" class="steps">
      <li v-for="(step, index) in steps" :key="index">
        {{ step.name }}
        <em v-if="step.reason">because: {{ step.reason }}</em>
      </li>
    </ol>
    <p v-else class="muted"><slot /></p>
  </section>
</template>

<style scoped>
h3 {
  font-size: 14px;
  font-weight: 600;
}

li {
  padding: 5px 0;
  border-bottom: 1px solid var(--line-soft);
}

em {
  display: block;
  color: var(--ink-2);
}
</style>
