<script setup lang="ts">
import LaterScreen from '../../shell/LaterScreen.vue';
</script>

<template>
  <LaterScreen
    title="Sew-outs"
    :what="[
      'Samples that were sewn, each against the revision it was sewn from',
      'What was measured on them: gaps, widths, minutes, breaks',
      'What that taught about the pull of the cloth and the clock of the machine',
    ]"
  />
</template>
