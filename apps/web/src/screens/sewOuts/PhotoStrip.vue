<script setup lang="ts">
import type { SewOutPhoto } from '@isola/contract';
import { placePhoto, type PhotoPoint } from '@isola/core';
import { mdiImagePlusOutline } from '@mdi/js';
import { useTemplateRef } from 'vue';
import { api } from '../../api/client.ts';
import { useSewOuts } from '../../stores/sewOuts.ts';
import { useAct } from '../../stores/useAct.ts';

/** Photos of a sample: kept with it, and laid over the design at its true size. */
const over = defineModel<string | undefined>('over');
const share = defineModel<number>('share', { required: true });
const emit = defineEmits<{ lay: [id: string] }>();
const sewOuts = useSewOuts();
const { isBusy, act } = useAct();
const picker = useTemplateRef<HTMLInputElement>('picker');

const send = (files: FileList | null): Promise<void> =>
  act(async () => {
    for (const file of files ?? []) {
      // What the browser cannot show is not worth sending.
      const picture = await createImageBitmap(file).catch(() => {
        throw new Error(`${file.name} is no picture that can be shown here. Choose a photo as JPEG, PNG or WebP.`);
      });
      picture.close();
      sewOuts.take(await api.addPhoto(sewOuts.record!.id, file));
    }
    if (picker.value !== null) picker.value.value = '';
  });

const remove = (id: string): Promise<void> => act(async () => sewOuts.take(await api.removePhoto(id)));

/** A photo that was taken at a slant tells widths wrongly. */
function slantOf({ points }: SewOutPhoto): number {
  const placed = points === null ? undefined : placePhoto(points as unknown as [PhotoPoint, PhotoPoint, PhotoPoint]);
  return placed?.ok === true ? placed.value.slant : 1;
}
const SLANTED = 1.05;
</script>

<template>
  <section aria-label="Photos">
    <header>
      <h3>Photos</h3>
      <v-btn size="small" variant="outlined" :prepend-icon="mdiImagePlusOutline" :loading="isBusy" @click="picker?.click()">Add</v-btn>
      <input
        ref="picker"
        class="visually-hidden"
        type="file"
        accept="image/jpeg,image/png,image/webp"
        multiple
        tabindex="-1"
        aria-label="Photos of the sample"
        @change="send(($event.target as HTMLInputElement).files)"
      />
    </header>
    <p v-if="sewOuts.record!.photos.length === 0" class="muted small">
      None. Taken from straight above, a photo can be laid over the design.
    </p>
    <ul>
      <li v-for="photo in sewOuts.record!.photos" :key="photo.id">
        <img :src="api.photoAddress(photo.id)" :alt="photo.name" />
        <span>
          {{ photo.name }}
          <small v-if="slantOf(photo) > SLANTED" class="warn"
            >taken at a slant: {{ Math.round((slantOf(photo) - 1) * 100) }} % wider one way</small
          >
          <span class="acts">
            <button
              v-if="photo.points"
              type="button"
              class="in-words"
              :aria-pressed="over === photo.id"
              @click="over = over === photo.id ? undefined : photo.id"
            >
              {{ over === photo.id ? 'Take off the cloth' : 'Show on the cloth' }}
            </button>
            <button type="button" class="in-words" @click="emit('lay', photo.id)">
              {{ photo.points ? 'Lay it anew' : 'Lay it over the design' }}
            </button>
            <button type="button" class="in-words" :disabled="isBusy" @click="remove(photo.id)">Delete</button>
          </span>
          <label v-if="over === photo.id && photo.points" class="share"
            >Seen through
            <input v-model.number="share" type="range" min="0.1" max="1" step="0.05" aria-label="How much of the photo is seen"
          /></label>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section,
ul {
  display: grid;
  gap: 8px;
}

header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}

h3 {
  font-size: 14px;
  font-weight: 600;
}

li {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  gap: 12px;
  overflow-wrap: anywhere;
}

img {
  width: 76px;
  height: 60px;
  border: 1px solid var(--line);
  border-radius: 6px;
  object-fit: cover;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}

.share {
  display: flex;
  gap: 8px;
  align-items: center;
  color: var(--ink-2);
  font-size: 12px;
}

.small {
  font-size: 12px;
}

.warn {
  display: block;
  color: var(--fix);
}
</style>
