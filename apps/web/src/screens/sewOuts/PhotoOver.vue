<script setup lang="ts">
import type { SewOutPhoto } from '@isola/contract';
import { placePhoto, type PhotoPoint } from '@isola/core';
import { computed } from 'vue';
import { api } from '../../api/client.ts';
import type { Size, Viewport } from '../../bench/cloth/viewport.ts';

/** A photo that lies over the design as its three points say, at the design's size. */
const props = defineProps<{ photo: SewOutPhoto; view: Viewport; size: Size; share: number }>();

const transform = computed(() => {
  const { points } = props.photo;
  const placed = points === null ? undefined : placePhoto(points as unknown as [PhotoPoint, PhotoPoint, PhotoPoint]);
  if (placed?.ok !== true) return undefined;
  const { a, b, c, d, e, f } = placed.value;
  const { x, y, scale } = props.view;
  const [left, top] = [props.size.width / 2 + (e - x) * scale, props.size.height / 2 - (f - y) * scale];
  return `matrix(${a * scale}, ${-b * scale}, ${c * scale}, ${-d * scale}, ${left}, ${top})`;
});
</script>

<template>
  <div class="over">
    <img
      v-if="transform"
      :src="api.photoAddress(photo.id)"
      :width="photo.width"
      :height="photo.height"
      :style="{ transform, opacity: share }"
      :alt="`${photo.name}, over the design`"
    />
  </div>
</template>

<style scoped>
.over {
  position: absolute;
  inset: 0;
  overflow: hidden;
  pointer-events: none;
}

img {
  position: absolute;
  top: 0;
  left: 0;
  max-width: none;
  transform-origin: 0 0;
}
</style>
