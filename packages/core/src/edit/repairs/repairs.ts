import { rebuildCorners } from './corners.ts';
import { lightenLayer, lightenStack } from './lightenCover.ts';
import {
  byStep,
  findWays,
  fromCenterOut,
  gatherThreads,
  marksToFront,
  mergeColors,
  sewAfterLarge,
  sewOnTop,
  walkOn,
} from './orderRepairs.ts';
import type { Repairer } from './repairer.ts';
import { closeGaps, fillSmallHoles, holdPile, joinPieces } from './shapeRepairs.ts';
import {
  fitThread,
  keepToBudget,
  layUnderlay,
  leaveEdgeRunOut,
  lengthenStitches,
  makeFill,
  makeSatin,
  orderUnderlay,
  setSpacing,
  shortenCrowded,
  splitThrows,
  widen,
} from './specRepairs.ts';
import { turnAngles } from './turnAngles.ts';

/** What repairs the faults of each rule in objects or in their order; rules that are repaired in rows carry that themselves. */
export const REPAIRS: Readonly<Record<string, Repairer>> = {
  'thread-mismatch': fitThread,
  'satin-should-be-fill': makeFill,
  'fill-should-be-satin': makeSatin,
  'wide-satin': splitThrows,
  'thin-satin': widen,
  'detail-too-small': widen,
  'stitch-budget': keepToBudget,
  'too-open': setSpacing,
  'no-underlay': layUnderlay,
  'wrong-underlay': layUnderlay,
  'underlay-showing': layUnderlay,
  'underlay-bulk': layUnderlay,
  'needless-edge-run': leaveEdgeRunOut,
  'underlay-order': orderUnderlay,
  'same-angle': turnAngles,
  'gap-risk': closeGaps,
  perforation: lengthenStitches,
  'same-hole': shortenCrowded,
  'corner-fan': rebuildCorners,
  'too-dense': lightenLayer,
  'stacked-cover': lightenStack,
  'small-hole': fillSmallHoles,
  'pile-unheld': holdPile,
  'split-pieces': joinPieces,
  'mergeable-color': mergeColors,
  'marks-first': marksToFront,
  'applique-order': byStep,
  'detail-under-cover': sewOnTop,
  'small-before-large': sewAfterLarge,
  'center-out': fromCenterOut,
  'color-return': gatherThreads,
  'far-entry': findWays,
  'exposed-travel': findWays,
  'needless-trim': walkOn,
};
