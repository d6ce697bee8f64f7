<script setup lang="ts">
import LaterScreen from '../../shell/LaterScreen.vue';
</script>

<template>
  <LaterScreen
    title="Layout"
    :what="['Several copies in one hoop, with registration marks', 'Sorted by step and by color, in rows that run to and fro']"
  />
</template>
