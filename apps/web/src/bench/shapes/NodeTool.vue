<script setup lang="ts">
import { computed } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNodes } from '../../stores/nodes.ts';
import { useObjects } from '../../stores/objects.ts';
import { useAct } from '../../stores/useAct.ts';
import SpecPairs from '../spec/SpecPairs.vue';

/** What can be done to the nodes of the selected object. */
const nodes = useNodes();
const bench = useBench();
const objects = useObjects();
const { isBusy, act } = useAct();

const some = computed(() => nodes.picked.length > 0);
const one = computed(() => (nodes.picked.length === 1 ? nodes.picked[0] : undefined));
const pairs = computed(() => bench.trial?.trial.pairs);
</script>

<template>
  <div class="tool">
    <p v-if="objects.selected === undefined" class="muted">Pick an object: its edge opens by its nodes.</p>
    <template v-else>
      <p class="muted">
        <span class="number">{{ nodes.count }}</span> nodes. Drag them, or step to one with Tab and move it by the arrow keys: 0.1 mm, with
        Shift 1 mm. Shift picks several; a double click on the line sets one there.
      </p>
      <p v-if="some" class="number">{{ nodes.picked.length }} picked</p>
      <div class="acts">
        <v-btn variant="outlined" size="small" :disabled="!one" @click="nodes.add(one!.line, one!.index)">Add after it</v-btn>
        <v-btn variant="outlined" size="small" :disabled="!some" title="Delete" @click="nodes.remove()">Delete</v-btn>
        <v-btn variant="outlined" size="small" :disabled="!some" @click="nodes.makeStraight()">Straight</v-btn>
        <v-btn variant="outlined" size="small" :disabled="!some" @click="nodes.makeSmooth()">Smooth</v-btn>
        <v-btn variant="text" size="small" :disabled="nodes.count === 0" @click="nodes.pickAll()">Pick all</v-btn>
      </div>
    </template>
    <p v-if="nodes.problem" class="short" role="alert">Not sewn so: {{ nodes.problem }}.</p>
    <div v-if="nodes.isChanged" class="foot">
      <SpecPairs v-if="pairs" :pairs="pairs" />
      <div class="acts">
        <v-btn color="primary" :disabled="isBusy || !bench.trial || nodes.problem !== ''" @click="act(() => nodes.make())">Sew it so</v-btn>
        <v-btn variant="outlined" title="Escape" @click="nodes.stepBack()">Step back</v-btn>
      </div>
    </div>
  </div>
</template>

<style scoped>
.tool {
  display: grid;
  gap: 9px;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}

.short {
  color: var(--fix);
}

.foot {
  padding-top: 8px;
  border-top: 1px solid var(--line);
}
</style>
