import type { StitchObject } from '../model/stitchObject.ts';
import type { Finding } from './finding.ts';
import { findRule } from './rulebook.ts';

/** Minutes of a digitizer, all from memory: what a repair that is made here takes to look at and accept, and what one by hand takes for each place. */
const MADE_HERE = 0.5;
const BY_HAND = 4;
const MOST_BY_HAND = 25;
/** Drawing a file anew takes so long to set up, and so much for each object and each thousand stitches. */
const SET_UP = 15;
const PER_OBJECT = 3;
const PER_THOUSAND = 4;
/** With more than this share of objects that cannot be told, or that have something to be fixed, a file is worth less than its drawing. */
const UNTOLD = 0.35;
const FAULTY = 0.8;

/** Whether a file is better repaired or digitized anew, with the minutes of either and why. Minutes are estimates. */
export interface Verdict {
  readonly choice: 'repair' | 'anew';
  readonly repairMinutes: number;
  readonly anewMinutes: number;
  /** In words, counted, what matters most first. */
  readonly reasons: readonly string[];
}

/** Weighs the open findings of a design with its objects against drawing it anew. Nothing found is a repair of no minutes. */
export function weighRepair(findings: readonly Finding[], objects: readonly StitchObject[], stitches: number): Verdict {
  const covers = objects.filter(({ role }) => role === 'cover');
  let repairMinutes = 0;
  let byHand = 0;
  for (const { rule, places, fix, severity } of findings) {
    if (severity === 'note' && fix === undefined) continue;
    const isMade = fix !== undefined && findRule(rule).id === rule;
    if (!isMade) byHand++;
    repairMinutes += isMade ? MADE_HERE : Math.min(MOST_BY_HAND, BY_HAND * places.length);
  }
  const anewMinutes = covers.length === 0 ? Infinity : SET_UP + PER_OBJECT * covers.length + (PER_THOUSAND * stitches) / 1000;
  const untold = covers.filter(({ kind }) => kind === 'other').length;
  const serious = findings.filter(({ severity }) => severity !== 'note');
  const faulty = new Set(serious.flatMap((f) => f.places.flatMap(({ object }) => object ?? [])));
  const faultyCovers = covers.filter(({ id }) => faulty.has(id)).length;
  const reasons: string[] = [];
  if (covers.length > 0 && untold / covers.length > UNTOLD)
    reasons.push(`what ${untold} of ${covers.length} objects are cannot be told from their stitches`);
  if (covers.length > 3 && faultyCovers / covers.length > FAULTY)
    reasons.push(`${faultyCovers} of ${covers.length} objects have something to fix`);
  if (byHand > 0) reasons.push(`${byHand} of ${findings.length} findings have to be mended by hand`);
  if (serious.length > 0) reasons.push(`${serious.length - byHand > 0 ? serious.length - byHand : 0} are mended here, most in one action`);
  const isHopeless = covers.length > 0 && untold / covers.length > UNTOLD && faultyCovers / covers.length > FAULTY / 2;
  return { choice: isHopeless || repairMinutes > anewMinutes ? 'anew' : 'repair', repairMinutes, anewMinutes, reasons };
}
