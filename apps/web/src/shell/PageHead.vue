<script setup lang="ts">
import { computed } from 'vue';
import { useSession } from '../stores/session.ts';
import AppMark from './AppMark.vue';

/** The head of a page that is no job's: the mark, the pages of the shop, and what this one is. */
const session = useSession();
const PAGES = [
  { name: 'jobs', label: 'Jobs' },
  { name: 'board', label: 'Board' },
  { name: 'audits', label: 'Folders' },
  { name: 'logbook', label: 'Logbook' },
  { name: 'practice', label: 'Practice' },
  { name: 'shop', label: 'Shop' },
] as const;
/** Who runs the machine has less to go through. */
const OPERATORS: readonly string[] = ['jobs', 'board', 'logbook'];
const pages = computed(() => (session.role === 'operator' ? PAGES.filter(({ name }) => OPERATORS.includes(name)) : PAGES));
</script>

<template>
  <header>
    <AppMark />
    <nav aria-label="Pages of the shop">
      <router-link v-for="page in pages" :key="page.name" :to="{ name: page.name }">{{ page.label }}</router-link>
    </nav>
    <slot />
    <router-link v-if="session.person" class="me" :to="{ name: 'people' }">{{ session.person.name }}</router-link>
  </header>
</template>

<style scoped src="./navLinks.css"></style>
<style scoped>
header {
  display: flex;
  gap: 14px;
  align-items: center;
  height: 58px;
  padding: 0 24px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
}

nav {
  margin-right: 6px;
}

nav a.router-link-exact-active {
  background: var(--ink);
  color: var(--card);
}

.me {
  margin-left: auto;
  padding: 6px 10px;
  border: 1px solid var(--line);
  border-radius: 7px;
  color: var(--ink);
  font-weight: 500;
  text-decoration: none;
  white-space: nowrap;
}

header :slotted(h1) {
  font-size: 18px;
  font-weight: 600;
  white-space: nowrap;
}
</style>
