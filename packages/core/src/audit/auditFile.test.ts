import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { parse } from 'csv-parse/sync';
import { writeStitchCsv } from '../index.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { defaultTarget } from '../materials/shop.ts';
import { inspectProgram } from '../measure/inspect.ts';
import { ProgramBuilder } from '../model/program.ts';
import { USUAL_RULES } from '../model/target.ts';
import { startDesign } from '../plan/designOf.ts';
import { demoFile, fourObjects } from '../testing/designs.ts';
import { auditDesign } from './auditDesign.ts';
import { type AuditedFile, auditFile, FILE_COLUMNS, type FileAudit, filesCsv, rankFiles } from './auditFile.ts';

const twill = { ...defaultTarget(), fabric: FABRICS.find(({ id }) => id === 'twill')! };
const bytesOf = (name: string): Uint8Array => readFileSync(path.resolve(import.meta.dirname, '../../../../demo', name));

function audited(saves: number, stop = 0, fix = 0): FileAudit {
  return {
    ...{ warnings: [], saves, counts: { stop, fix, note: 0 }, findings: [] },
    figures: { stitches: 1000, trims: 3, colorChanges: 1, width: 50, height: 40, seconds: 120 },
    verdict: { choice: 'repair', repairMinutes: 2, anewMinutes: 60, reasons: [] },
  };
}

describe('a file among others', () => {
  test('is judged as its design is, with what its repairs save and no more than that can be', () => {
    for (const name of ['heron.csv', 'kettle.csv']) {
      const program = demoFile(name);
      const read = auditFile(bytesOf(name), twill);
      if (!read.ok) throw new Error(read.error.message);
      const findings = auditDesign(startDesign(program, twill));
      const { counts, saves, figures, verdict, ...rest } = read.value;
      expect(rest.findings.map(({ rule, severity, places }) => [rule, severity, places])).toEqual(
        findings.map(({ rule, severity, places }) => [rule, severity, places.length]),
      );
      expect(counts.stop + counts.fix + counts.note).toBe(findings.length);
      const { run, stitches } = inspectProgram(program, twill);
      expect([figures.stitches, figures.seconds]).toEqual([stitches, run.seconds]);
      const lost = run.seconds - run.sewing;
      expect(saves).toBeGreaterThan(0);
      expect(saves).toBeLessThanOrEqual(lost + run.sewing / 2);
      expect(verdict.choice).toBe('repair');
    }
  });

  test('hears of what stood in it as it came in, and is refused with its place where it is none', () => {
    const noEnd = new TextEncoder().encode('command,x,y\nstitch,0,0\nstitch,3,0\nstitch,6,0\n');
    const read = auditFile(noEnd, twill);
    expect(read.ok && read.value.warnings.join()).toMatch(/end/i);
    const torn = auditFile(new TextEncoder().encode('command,x,y\nstitch,0,here\n'), twill);
    expect(!torn.ok && [torn.error.line, torn.error.message]).toEqual([2, expect.stringContaining('here')]);
    expect(auditFile(new Uint8Array(0), twill).ok).toBe(false);
  });

  test('goes first where it saves most, then where most stands against sewing it; what could not be judged goes last, by name', () => {
    const files: AuditedFile[] = [
      { name: 'torn-b', problem: 'no stitch' },
      { name: 'few', audit: audited(10) },
      { name: 'torn-a', problem: 'no stitch' },
      { name: 'stops', audit: audited(10, 2) },
      { name: 'fixes', audit: audited(10, 0, 5) },
      { name: 'most', audit: audited(300) },
    ];
    const ranked = rankFiles(files).map(({ name }) => name);
    expect(ranked).toEqual(['most', 'stops', 'fixes', 'few', 'torn-a', 'torn-b']);
    expect(files[0]!.name).toBe('torn-b');
  });

  test('stands in a table that other programs read (RFC 4180), whatever its name is', () => {
    const strange = 'spring, "caps"\nnew/ö.csv';
    const text = filesCsv([
      { name: strange, audit: audited(90, 1) },
      { name: 'torn.csv', problem: 'line 2: expected a number' },
      { name: 'later.csv' },
    ]);
    const rows = parse<Record<string, string>>(text, { columns: true });
    expect(Object.keys(rows[0]!)).toEqual([...FILE_COLUMNS]);
    expect(rows[0]).toMatchObject({ file: strange, 'minutes to save': '1.5', minutes: '2.0', stop: '1', problem: '' });
    expect(
      rows
        .slice(1)
        .map(({ file, problem }) => `${file}: ${problem}`)
        .sort(),
    ).toEqual(['later.csv: not judged', 'torn.csv: line 2: expected a number']);
  });
});

describe('what was worked out of a design', () => {
  const design = fourObjects();
  const on = (limits: Record<string, number>, more: object = {}) =>
    auditDesign({ ...design, target: { ...design.target, ...more, rules: { ...USUAL_RULES, limits } } });
  const fresh = (limits: Record<string, number>, more: object = {}) =>
    auditDesign(startDesign(design.program, { ...design.target, ...more, rules: { ...USUAL_RULES, limits } }));
  const what = (findings: ReturnType<typeof on>) =>
    findings.map(({ rule, severity, measured, limit, places }) => [rule, severity, measured, limit, places.length]);

  test('is taken again by other limits, and gives what it would give anew: whatever was asked before, and in whatever order', () => {
    const asks: Record<string, number>[] = [
      {},
      { 'long-stitch': 3 },
      { 'long-stitch': 3, 'tiny-stitch': 1.2 },
      { 'tiny-stitch': 1.2 },
      { 'wide-satin': 3 },
      {},
    ];
    for (const limits of [...asks, ...asks.toReversed()]) expect(what(on(limits))).toEqual(what(fresh(limits)));
    expect(what(on({ 'long-stitch': 3 }))).not.toEqual(what(on({})));
  });

  test('is not taken for another cloth, thread or machine; the goal ranks and changes nothing found', () => {
    const terry = { fabric: FABRICS.find(({ id }) => id === 'terry')! };
    expect(what(on({}, terry))).toEqual(what(fresh({}, terry)));
    expect(what(on({}, terry))).not.toEqual(what(on({})));
    const machine = { machine: { ...design.target.machine, maxStitch: 2 } };
    const tooLong = (findings: ReturnType<typeof on>) => findings.find(({ rule }) => rule === 'machine-step')!.places.length;
    expect(tooLong(on({}, machine))).toBeGreaterThan(tooLong(on({})) + 20);
    const byRule = (findings: ReturnType<typeof on>) =>
      what(findings)
        .map((row) => JSON.stringify(row))
        .sort();
    expect(byRule(on({}, { goal: 'softest' }))).toEqual(byRule(on({}, { goal: 'fastest' })));
  });

  test('of one design is not taken for another one, however alike they are', () => {
    const builder = (gap: number) => {
      const out = new ProgramBuilder().color('#aa2222', 'Red').jump(0, 0);
      for (let k = 0; k < 30; k++) out.stitch(k * 2, k % 2 === 0 ? 0 : gap);
      return startDesign(out.trim().end().build(), twill);
    };
    const [short, long] = [builder(1), builder(10)];
    const rules = (d: typeof short) => auditDesign(d).map(({ rule }) => rule);
    const [first, second] = [rules(short), rules(long)];
    expect(first).not.toEqual(second);
    for (let turn = 0; turn < 3; turn++) expect([rules(short), rules(long)]).toEqual([first, second]);
    // What is written and read again is another one, and is judged alike.
    const again = auditFile(new TextEncoder().encode(writeStitchCsv(long.program)), twill);
    expect(again.ok && again.value.findings.map(({ rule }) => rule)).toEqual(second);
  });
});
