import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { AuditContext } from '../audit/AuditContext.ts';
import { auditDesign } from '../audit/auditDesign.ts';
import { RULES } from '../audit/rulebook.ts';
import { isOnStitches } from '../audit/rules/underlay/noUnderlay.ts';
import { readStitchFile } from '../formats/readStitchFile.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { pitchFactor } from '../materials/pitchFactor.ts';
import { defaultTarget } from '../materials/shop.ts';
import { isOpenFill } from '../materials/specBands.ts';
import type { ObjectSpec } from '../model/objectSpec.ts';
import { startDesign } from '../plan/designOf.ts';
import { SPEC_FAULTS } from './faults.ts';
import { judgePractice } from './judgePractice.ts';
import { isFoundIn, objectsThatFit, plantFaults } from './plantFaults.ts';

const target = { ...defaultTarget(), fabric: FABRICS.find(({ id }) => id === 'canvas')! };
function whisk() {
  const read = readStitchFile(readFileSync(path.join(import.meta.dirname, '../../../../demo/whisk.csv')));
  if (!read.ok) throw new Error(read.error.message);
  return read.value.program;
}
const file = plantFaults(whisk(), target, 3, 5);
const before = auditDesign(startDesign(file.program, target));
const claimOf = ({ rule, name, box }: (typeof file.planted)[number]) => ({
  rule,
  name,
  x: (box[0] + box[2]) / 2,
  y: (box[1] + box[3]) / 2,
});

describe('faults that are planted to practise on', () => {
  test('are faults by the rulebook, each in an object of its own, where the file had none; one seed plants the same', () => {
    expect(file.planted).toHaveLength(3);
    const came = auditDesign(startDesign(whisk(), target));
    for (const { rule, box, words } of file.planted) {
      expect([rule, isFoundIn(before, rule, box), isFoundIn(came, rule, box)]).toEqual([rule, true, false]);
      expect(words).not.toBe('');
    }
    for (const { rule } of SPEC_FAULTS) expect(RULES.map(({ id }) => id)).toContain(rule);
    expect(plantFaults(whisk(), target, 1, 5).planted[0]).toEqual(file.planted[0]);
    expect(plantFaults(whisk(), target, 0, 5)).toMatchObject({ planted: [] });
  });

  test('are judged: found by rule and place, mended where the rule finds nothing there now, and what was broken is said', () => {
    const [first, second] = file.planted;
    const nothing = judgePractice(file.planted, [], before, before);
    expect(nothing.faults.map(({ isFound, isMended }) => [isFound, isMended])).toEqual(file.planted.map(() => [false, false]));
    expect([nothing.others, nothing.broken]).toEqual([[], []]);
    for (const { why, title } of nothing.faults) expect([why.length > 20, title.length > 3]).toEqual([true, true]);
    // The first is mended and found; the second is taken for something else.
    const now = before.map((finding) =>
      finding.rule === first!.rule
        ? {
            ...finding,
            places: finding.places.filter(({ x, y }) => !isFoundIn([{ ...finding, places: [{ key: '', x, y }] }], first!.rule, first!.box)),
          }
        : finding,
    );
    const wrong = { ...claimOf(second!), rule: 'hoop-overflow' };
    const some = judgePractice(file.planted, [claimOf(first!), wrong], before, now);
    expect([some.faults[0]!.isFound, some.faults[0]!.isMended, some.faults[1]!.isFound]).toEqual([true, true, false]);
    expect(some.others).toEqual([{ title: RULES.find(({ id }) => id === 'hoop-overflow')!.title, name: second!.name, isThere: false }]);
    // What is there now and was not before was broken on the way.
    const sound = before.filter(({ rule }) => rule !== first!.rule);
    const { broken } = judgePractice(file.planted, [], sound, before);
    expect(broken.map(({ title }) => title)).toEqual([RULES.find(({ id }) => id === first!.rule)!.title]);
  });

  test('are planted only where they are faults: what lies on closed stitching needs no base, wide rows need room', () => {
    const design = startDesign(whisk(), target);
    const { isOfItsBase: _, ...fault } = SPEC_FAULTS.find(({ rule, kind }) => rule === 'no-underlay' && kind === 'satin')!;
    const free = objectsThatFit(design, { ...fault, least: 5 });
    const held = objectsThatFit(design, { ...fault, least: 5, isOfItsBase: true });
    for (const id of held) expect(free).toContain(id);
    const context = new AuditContext(design);
    for (const id of free) {
      const area = context.areas.find((one) => one.id === id);
      expect([id, held.includes(id)]).toEqual([id, area === undefined || !isOnStitches(context, area)]);
    }
    const open = SPEC_FAULTS.find(({ rule }) => rule === 'underlay-showing')!;
    const [all, broad] = [0, 6].map((least) => objectsThatFit(design, { ...open, least: 20, broad: least }));
    expect(broad!.length).toBeLessThan(all!.length);
    // However far a fill is opened, it is one that is meant to be closed.
    const spec = { spacing: 0.74 } as ObjectSpec;
    const opened = SPEC_FAULTS.find(({ rule, kind }) => rule === 'too-open' && kind === 'fill')!.change(spec, target);
    expect(opened.spacing).toBeGreaterThan(spec.spacing);
    expect(isOpenFill({ kind: 'fill', spacing: opened.spacing! }, pitchFactor(target.thread))).toBe(false);
  });
});
