import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test } from '@jest/globals';
import { readStitchFile } from '../formats/readStitchFile.ts';
import { USUAL_RULES } from '../model/target.ts';
import { defaultTarget } from '../materials/shop.ts';
import { startDesign } from '../plan/designOf.ts';
import { auditDesign } from './auditDesign.ts';
import { RULES } from './rulebook.ts';

test('a limit that is changed finds what an audit finds that remembers nothing, whichever limit and whatever was changed before', () => {
  const read = readStitchFile(readFileSync(path.join(import.meta.dirname, '../../../../demo/kettle.csv')));
  if (!read.ok) throw new Error(read.error.message);
  const design = startDesign(read.value.program, defaultTarget());
  const usual = JSON.stringify(auditDesign(design));
  let changed = 0;
  for (const rule of RULES) {
    const limits = { [rule.id]: rule.limit(design.target) * 1.5 };
    const target = { ...design.target, rules: { ...USUAL_RULES, limits } };
    const [again, anew] = [auditDesign({ ...design, target }), auditDesign({ ...design, target, plan: { ...design.plan } })];
    expect([rule.id, again]).toEqual([rule.id, anew]);
    if (JSON.stringify(again) !== usual) changed++;
  }
  expect(changed).toBeGreaterThan(5);
  // And back again.
  expect(JSON.stringify(auditDesign(design))).toBe(usual);
});
