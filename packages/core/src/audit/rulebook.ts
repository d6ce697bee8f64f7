import type { Goal, Target } from '../model/target.ts';
import { asRule, type Rule, type RuleGroup } from './rule.ts';
import { smallHole } from './rules/bulk/smallHole.ts';
import { threadMismatch } from './rules/bulk/threadMismatch.ts';
import { tooOpen } from './rules/bulk/tooOpen.ts';
import { underlayBulk } from './rules/bulk/underlayBulk.ts';
import { stitchBudget } from './rules/fit/stitchBudget.ts';
import { perforation } from './rules/holding/perforation.ts';
import { sameHole } from './rules/holding/sameHole.ts';
import { thinSatin } from './rules/holding/thinSatin.ts';
import { tieInsidePath } from './rules/holding/tieInsidePath.ts';
import { wideSatin } from './rules/holding/wideSatin.ts';
import { cornerFan } from './rules/look/cornerFan.ts';
import { detailTooSmall } from './rules/look/detailTooSmall.ts';
import { exposedTravel } from './rules/look/exposedTravel.ts';
import { fillShouldBeSatin, satinShouldBeFill } from './rules/look/fillOrSatin.ts';
import { gapRisk } from './rules/look/gapRisk.ts';
import { pileUnheld } from './rules/look/pileUnheld.ts';
import { sameAngle } from './rules/look/sameAngle.ts';
import { threadVanishes } from './rules/look/threadVanishes.ts';
import { appliqueOrder } from './rules/order/appliqueOrder.ts';
import { centerOut } from './rules/order/centerOut.ts';
import { detailUnderCover } from './rules/order/detailUnderCover.ts';
import { marksFirst } from './rules/order/marksFirst.ts';
import { smallBeforeLarge } from './rules/order/smallBeforeLarge.ts';
import { colorReturn, mergeableColor } from './rules/time/colorBlocks.ts';
import { farEntry } from './rules/time/farEntry.ts';
import { splitPieces } from './rules/time/splitPieces.ts';
import { needlessEdgeRun } from './rules/underlay/needlessEdgeRun.ts';
import { noUnderlay } from './rules/underlay/noUnderlay.ts';
import { underlayOrder } from './rules/underlay/underlayOrder.ts';
import { underlayShowing } from './rules/underlay/underlayShowing.ts';
import { wrongUnderlay } from './rules/underlay/wrongUnderlay.ts';
import { stackedCover } from './rules/bulk/stackedCover.ts';
import { tooDense } from './rules/bulk/tooDense.ts';
import { hoopOverflow, zoneOverflow } from './rules/fit/overflow.ts';
import { tooManyColors } from './rules/fit/tooManyColors.ts';
import { longStitch } from './rules/holding/longStitch.ts';
import { machineStep } from './rules/holding/machineStep.ts';
import { missingTie } from './rules/holding/missingTie.ts';
import { tinyStitch } from './rules/holding/tinyStitch.ts';
import { needlessJump } from './rules/time/needlessJump.ts';
import { needlessTrim } from './rules/time/needlessTrim.ts';

/** Counts up whenever a rule's meaning or limit changes, so that findings of different times can be told apart. */
export const RULEBOOK_VERSION = 4;

/**
 * All rules, in the order in which their repairs are made, which is that of the work: how objects are sewn; what they are sewn after; where they begin and
 * end and what leads from one to the next; single penetrations; locks last, where a thread then really starts or ends.
 */
export const RULES: readonly Rule[] = [
  asRule(threadMismatch),
  asRule(satinShouldBeFill),
  asRule(fillShouldBeSatin),
  asRule(wideSatin),
  asRule(thinSatin),
  asRule(detailTooSmall),
  asRule(stitchBudget),
  asRule(tooOpen),
  asRule(noUnderlay),
  asRule(wrongUnderlay),
  asRule(underlayShowing),
  asRule(underlayBulk),
  asRule(needlessEdgeRun),
  asRule(underlayOrder),
  asRule(sameAngle),
  asRule(gapRisk),
  asRule(perforation),
  asRule(sameHole),
  asRule(cornerFan),
  asRule(tooDense),
  asRule(stackedCover),
  asRule(smallHole),
  asRule(pileUnheld),
  asRule(threadVanishes),
  asRule(splitPieces),
  asRule(mergeableColor),
  asRule(marksFirst),
  asRule(appliqueOrder),
  asRule(detailUnderCover),
  asRule(smallBeforeLarge),
  asRule(centerOut),
  asRule(colorReturn),
  asRule(farEntry),
  asRule(exposedTravel),
  asRule(needlessTrim),
  asRule(needlessJump),
  asRule(tinyStitch),
  asRule(machineStep),
  asRule(longStitch),
  asRule(tieInsidePath),
  asRule(missingTie),
  asRule(hoopOverflow),
  asRule(zoneOverflow),
  asRule(tooManyColors),
];

/** The rules that a shop judges by: all but those that it does not want. */
export function rulesFor({ rules }: Target): readonly Rule[] {
  return rules === undefined || rules.off.length === 0 ? RULES : RULES.filter(({ id }) => !rules.off.includes(id));
}

/** Which groups of rules matter first for a goal, among findings of one severity. */
export const GROUPS_BY_GOAL: Readonly<Record<Goal, readonly RuleGroup[]>> = {
  fastest: ['fit', 'time', 'order', 'holding', 'bulk', 'underlay', 'look'],
  cleanest: ['fit', 'holding', 'look', 'underlay', 'order', 'bulk', 'time'],
  softest: ['fit', 'bulk', 'underlay', 'holding', 'look', 'order', 'time'],
};

/** The rule of an id. @throws when there is none. */
export function findRule(id: string): Rule {
  const rule = RULES.find((r) => r.id === id);
  if (rule === undefined) throw new RangeError(`no rule ${id}; there are ${RULES.map((r) => r.id).join(', ')}`);
  return rule;
}
