<script setup lang="ts">
import { countNodes, isSmooth, nearestOnNodes, type NodePart, placeOfNode } from '@isola/core';
import { computed } from 'vue';
import { type NodeAt, useNodes } from '../../stores/nodes.ts';
import { type Size, toCloth, toScreen, type Viewport } from '../cloth/viewport.ts';
import { ARROWS } from '../tools/arrows.ts';
import { followPointer } from '../tools/followPointer.ts';
import { nodesOnScreen } from './clothPath.ts';

/** The lines of the selected object by their nodes: beads where they go on smoothly, lozenges at corners; what they were stays as a ghost. */
const props = defineProps<{ view: Viewport; size: Size }>();
const nodes = useNodes();

const isClosed = computed(() => nodes.opened?.isClosed === true);
const ghosts = computed(() =>
  nodes.isChanged ? nodes.opened!.lines.map((line) => nodesOnScreen(line, isClosed.value, props.view, props.size)) : [],
);
const paths = computed(() => nodes.lines.map((line) => nodesOnScreen(line, isClosed.value, props.view, props.size)));
const on = (line: number, index: number, part: NodePart = 'place'): { x: number; y: number } =>
  toScreen(props.view, props.size, ...placeOfNode(nodes.lines[line]!, index, part));

const marks = computed(() =>
  nodes.lines.flatMap((line, k) =>
    Array.from({ length: countNodes(line) }, (_, index) => ({
      ...{ line: k, index, at: on(k, index), isRound: isSmooth(line, index), isPicked: nodes.isPicked({ line: k, index }) },
      says: `Node ${index + 1} of ${nameOf(k)}, ${isSmooth(line, index) ? 'smooth' : 'corner'}`,
    })),
  ),
);

function nameOf(line: number): string {
  if (nodes.opened?.kind === 'column') return line === 0 ? 'the left side' : 'the right side';
  if (nodes.opened?.kind === 'line') return 'the line';
  return line === 0 ? 'the outline' : `hole ${line}`;
}

/** Where the picked nodes are pulled to. */
const pulls = computed(() =>
  nodes.picked.flatMap((node) =>
    (['in', 'out'] as const).flatMap((part) => {
      const [at, to] = [on(node.line, node.index), on(node.line, node.index, part)];
      return Math.hypot(to.x - at.x, to.y - at.y) < 3 ? [] : [{ node, part, at, to }];
    }),
  ),
);

function drag(event: PointerEvent, node: NodeAt): void {
  const target = event.currentTarget as SVGElement;
  target.focus();
  nodes.pick(node, event.shiftKey);
  if (!nodes.isPicked(node)) return;
  let from: { x: number; y: number } | undefined;
  followPointer(event, (at) => {
    const to = toCloth(props.view, props.size, at.x, at.y);
    const before = from ?? clothOf(node);
    from = to;
    nodes.moveBy(thousandth(to.x - before.x), thousandth(to.y - before.y));
  });
}

const thousandth = (v: number): number => Math.round(v * 1000) / 1000;

function clothOf({ line, index }: NodeAt): { x: number; y: number } {
  const [x, y] = placeOfNode(nodes.lines[line]!, index);
  return { x, y };
}

function pull(event: PointerEvent, node: NodeAt, part: 'in' | 'out'): void {
  followPointer(event, (at) => {
    const { x, y } = toCloth(props.view, props.size, at.x, at.y);
    nodes.pullTo(node, part, thousandth(x), thousandth(y));
  });
}

/** A double click on a line sets a node there. */
function addAt(event: MouseEvent, line: number): void {
  const box = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
  const { x, y } = toCloth(props.view, props.size, event.clientX - box.left, event.clientY - box.top);
  const { index, t } = nearestOnNodes(nodes.lines[line]!, isClosed.value, x, y);
  nodes.add(line, index, t);
}

function onKey(event: KeyboardEvent, node: NodeAt): void {
  const by = ARROWS[event.key];
  const isAway = event.key === 'Delete' || event.key === 'Backspace';
  const isPick = event.key === ' ';
  if (by === undefined && !isAway && !isPick) return;
  event.preventDefault();
  event.stopPropagation();
  if (isPick) nodes.pick(node, true);
  else {
    if (!nodes.isPicked(node)) nodes.pick(node, false);
    const step = event.shiftKey ? 1 : 0.1;
    if (by === undefined) nodes.remove();
    else nodes.moveBy(by[0] * step, by[1] * step);
  }
}

const LOZENGE = 'M0 -6L6 0L0 6L-6 0Z';
</script>

<template>
  <svg class="nodes">
    <path v-for="(d, k) in ghosts" :key="`ghost ${k}`" :d="d" class="ghost" />
    <template v-for="(d, k) in paths" :key="k">
      <path :d="d" class="halo" />
      <path :d="d" class="line" />
      <path :d="d" class="hit" @pointerdown.stop @dblclick.stop="addAt($event, k)" />
    </template>
    <g v-for="{ node, part, at, to } in pulls" :key="`${node.line} ${node.index} ${part}`">
      <path :d="`M${at.x} ${at.y}L${to.x} ${to.y}`" class="arm" />
      <circle :cx="to.x" :cy="to.y" r="4.5" class="pull" @pointerdown.stop.prevent="pull($event, node, part)" />
    </g>
    <g
      v-for="mark in marks"
      :key="`${mark.line} ${mark.index}`"
      class="node"
      :class="{ picked: mark.isPicked }"
      :transform="`translate(${mark.at.x} ${mark.at.y})`"
      tabindex="0"
      role="button"
      :aria-pressed="mark.isPicked"
      :aria-label="mark.says"
      @pointerdown.stop.prevent="drag($event, mark)"
      @keydown="onKey($event, mark)"
    >
      <circle v-if="mark.isRound" r="5" />
      <path v-else :d="LOZENGE" />
    </g>
  </svg>
</template>

<style scoped>
.nodes {
  position: absolute;
  inset: 0;
  z-index: 2;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

path {
  fill: none;
  stroke-linejoin: round;
}

.ghost {
  stroke: #fffdf8;
  stroke-width: 1.6;
  stroke-dasharray: 4 4;
}

.halo {
  stroke: #14262b;
  stroke-width: 4;
  opacity: 0.5;
}

.line {
  stroke: #ffe9a8;
  stroke-width: 1.8;
}

.hit {
  stroke: transparent;
  stroke-width: 12;
  pointer-events: stroke;
  cursor: copy;
}

.arm {
  stroke: #ffe9a8;
  stroke-width: 1.2;
}

.pull {
  fill: #14262b;
  stroke: #ffe9a8;
  stroke-width: 1.6;
  pointer-events: all;
  cursor: grab;
}

.node {
  pointer-events: all;
  cursor: grab;
  outline-offset: 3px;
}

.node > * {
  fill: #fffdf8;
  stroke: #14262b;
  stroke-width: 1.6;
}

.node.picked > * {
  fill: #0f5c66;
  stroke: #ffe9a8;
}
</style>
