<script setup lang="ts">
import LaterScreen from '../../shell/LaterScreen.vue';
</script>

<template>
  <LaterScreen
    title="Rework"
    :what="[
      'Each object with its spacing, angle, stitch length, underlay and compensation, and the band that is right for this cloth drawn behind every value',
      'New stitches seen on the cloth at once, with stitches, seconds, cover and widest gap before and after',
      'Tools for edges, for layers and for single penetrations',
    ]"
  />
</template>
