import type { Component } from 'vue';
import CoverLegend from './CoverLegend.vue';
import DirectionsLegend from './DirectionsLegend.vue';
import LayersLegend from './LayersLegend.vue';
import PathsLegend from './PathsLegend.vue';
import PenetrationsLegend from './PenetrationsLegend.vue';
import SewnLegend from './SewnLegend.vue';
import type { ClothViewKind } from './views.ts';

/** What is said under the views of what their marks and colors mean; thread says that by itself. */
export const LEGENDS: Readonly<Partial<Record<ClothViewKind, Component>>> = {
  penetrations: PenetrationsLegend,
  cover: CoverLegend,
  paths: PathsLegend,
  directions: DirectionsLegend,
  layers: LayersLegend,
  sewn: SewnLegend,
};
