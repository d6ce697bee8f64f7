import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { repairFindings } from './repairFindings.ts';
import { defaultTarget } from '../materials/shop.ts';
import { inspectProgram } from '../measure/inspect.ts';
import type { Design } from '../model/design.ts';
import { type Program, ProgramBuilder } from '../model/program.ts';
import { startDesign } from '../plan/designOf.ts';
import { anyProgramWithin, buildProgram, sewParts, zigzag, fillSquare } from '../testing/programs.ts';
import { AuditContext } from '../audit/AuditContext.ts';
import { auditDesign } from '../audit/auditDesign.ts';
import { findFaults } from '../audit/findFaults.ts';
import type { Finding } from '../audit/finding.ts';
import { priceOfPatches } from '../audit/priceOfPatches.ts';
import { findRule, RULES } from '../audit/rulebook.ts';
import { runs } from '../testing/runs.ts';

const target = defaultTarget();
const designOf = (program: Program): Design => startDesign(program, target);
const find = (program: Program, rule: string): Finding[] => auditDesign(designOf(program)).filter((f) => f.rule === rule);

describe('repairs', () => {
  test('a price worked out on the rows around is the difference of the whole run clock', () => {
    const rivets = Array.from({ length: 9 }, (_, k) => zigzag(k * 3.4, k * 1.4, 7, 2, 0.4));
    const programs = [sewParts(rivets, 'trim'), sewParts(rivets, 'jump', false), sewParts([zigzag(0, 0, 30, 16, 0.4)], 'trim', false)];
    for (const program of programs) {
      const context = new AuditContext(designOf(program));
      for (const { finding, faults } of RULES.flatMap((rule) => findFaults(context, rule, {})).filter((f) => f.finding.fix !== undefined)) {
        const rule = findRule(finding.rule);
        if (rule.repair === undefined || rule.mend !== undefined) continue;
        const patches = rule.repair.patches(context, faults, rule.limit(target));
        const result = repairFindings(designOf(program), (f) => f.key === finding.key);
        const [before, after] = [inspectProgram(program, target), inspectProgram(result.design.program, target)];
        const price = priceOfPatches(context, patches);
        expect(price.seconds).toBeCloseTo(before.run.seconds - after.run.seconds, 6);
        expect(price.stitches).toBe(before.stitches - after.stitches);
      }
    }
  });

  test('on any program the audit answers, and repairing all leaves rows, threads and their order sound', () => {
    fc.assert(
      fc.property(anyProgramWithin(40), (program) => {
        const result = repairFindings(designOf(program), () => true);
        expect(result.design.program.threads).toEqual(program.threads);
        for (const rule of ['needless-trim', 'needless-jump', 'machine-step']) {
          expect(auditDesign(result.design).filter((f) => f.rule === rule)).toEqual([]);
        }
      }),
      runs(150, 91),
    );
  });

  test('findings over a whole jacket back, of more cells than a call takes arguments, are put together', () => {
    const builder = new ProgramBuilder();
    for (const [k, angle] of [0, 60, 120].entries()) {
      builder.color(`#00000${k}`);
      for (const [x, y] of fillSquare(240, 0.4, angle)) builder.stitch(x, y);
    }
    const [finding] = find(builder.end().build(), 'stacked-cover');
    expect(finding!.message).toContain('3 layers');
    expect(finding!.message).toMatch(/on 5\d\u202f\d{3} mm²/);
  });

  test('programs of one stitch, of identical points and of nothing but jumps are audited without complaint', () => {
    const same = buildProgram(Array.from({ length: 3000 }, () => ({ command: 'stitch' as const, x: 1, y: 1 })));
    expect(auditDesign(designOf(same)).length).toBeGreaterThan(0);
    expect(repairFindings(designOf(same), () => true).design.program.rowCount).toBeLessThan(20);
    expect(auditDesign(designOf(buildProgram([{ command: 'stitch', x: 0, y: 0 }])))).toEqual([]);
    expect(auditDesign(designOf(buildProgram([{ command: 'jump', x: 0, y: 0 }])))).toEqual([]);
  });
});
