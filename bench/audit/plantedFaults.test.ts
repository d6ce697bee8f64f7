import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, test } from '@jest/globals';
import {
  applyOperation,
  auditDesign,
  compareFindings,
  type Design,
  findRule,
  isSameProgram,
  isWorse,
  Operation,
  orderOf,
  repairFindings,
  RULES,
  USUAL_RULES,
} from '@isola/core';
import { readRows } from '../../packages/core/src/model/plan.ts';
import { readShapes } from '../recognition/shapes.ts';
import { IN_DRAWINGS } from './plantedFaults.ts';
import { someOf } from '../../packages/core/src/testing/runs.ts';
import { type Drawing, drawingOf, sewn, targetOn } from './soundSet.ts';

/** Rules whose repair by itself leaves a part of what they find; the rest of it is said. */
const PARTLY: ReadonlySet<string> = new Set([
  'fill-should-be-satin',
  'detail-too-small',
  'stitch-budget',
  'underlay-showing',
  'center-out',
  'stacked-cover',
  'gap-risk',
]);
/** Rules that have advice alone. */
const ADVICE: ReadonlySet<string> = new Set(['thread-vanishes', 'zone-overflow', 'too-many-colors']);

/** Of the others it is tried with each repair what it leaves, by `npm run guard`. */
const REPAIRED = new Set(someOf(Object.keys(IN_DRAWINGS)));

let drawing: Drawing;
let sound: Design;
beforeAll(() => {
  const shapes = readShapes().filter(({ part }) => part === 'tune');
  drawing = drawingOf([shapes[0]!, shapes[1]!], targetOn('twill'));
  sound = sewn(drawing);
});

describe('a drawing sewn as its cloth wants', () => {
  test('gets no stop and at most one fix', () => {
    const findings = auditDesign(sound);
    expect(findings.filter(({ severity }) => severity === 'stop')).toEqual([]);
    expect(findings.filter(({ severity }) => severity === 'fix').length).toBeLessThanOrEqual(1);
  });
});

describe.each(Object.keys(IN_DRAWINGS))('%s', (id) => {
  test('is found where it was planted, said in words with a figure over its limit, and repaired without harm', () => {
    const { design, box } = IN_DRAWINGS[id]!(drawing);
    const before = auditDesign(design);
    const finding = before.find(({ rule }) => rule === id)!;
    expect([id, finding?.rule]).toEqual([id, id]);
    if (box !== undefined) {
      const isThere = finding.places.some(({ x, y }) => x > box[0]! - 2.5 && x < box[2]! + 2.5 && y > box[1]! - 2.5 && y < box[3]! + 2.5);
      expect(isThere).toBe(true);
    }
    expect(finding.message).toMatch(/^\S.{10,}/);
    expect(finding.message).not.toMatch(/undefined|NaN|Infinity/);
    expect(finding.reason).not.toMatch(/undefined|NaN|Infinity/);
    expect(Number.isFinite(finding.measured) && Number.isFinite(finding.cost.seconds)).toBe(true);
    expect([finding.fix, finding.advice].filter((text) => text !== undefined)).toHaveLength(1);
    if (!REPAIRED.has(id)) return;

    const { design: after, operations, refused } = repairFindings(design, ({ rule }) => rule === id);
    if (ADVICE.has(id)) {
      expect([finding.fix, operations, refused.length > 0]).toEqual([undefined, [], true]);
      return;
    }
    const changes = compareFindings(before, auditDesign(after));
    const own = changes.find(({ rule }) => rule === id);
    if (operations.length > 0) {
      expect([id, own !== undefined && own.gone > 0]).toEqual([id, true]);
      if (!PARTLY.has(id)) expect([id, own!.after]).toEqual([id, undefined]);
      expect(changes.filter((change) => change.after === 'stop' && change.before !== 'stop' && isWorse(change))).toEqual([]);
    } else expect(refused.length).toBeGreaterThan(0);

    // The journal holds what was done, and it can be done again; objects that no repair named keep their penetrations.
    const again = applyOperation(design, Operation.parse(JSON.parse(JSON.stringify({ id: 'sequence', operations }))));
    if (!again.ok) throw new Error(again.error);
    expect(isSameProgram(again.value.program, after.program)).toBe(true);
    const named = new Set(
      operations.flatMap((operation) =>
        'object' in operation ? [operation.object] : 'edits' in operation ? operation.edits.map(({ object }) => object) : [],
      ),
    );
    for (const object of orderOf(design.plan)) {
      if (named.has(object) || after.plan.objects[object] === undefined) continue;
      const [was, is] = [design, after].map(({ plan }) => {
        const { program, first, end } = readRows(plan.source, plan.objects[object]!.sewn.rows);
        return [...program.x.subarray(first, end), ...program.y.subarray(first, end)];
      });
      expect([object, is]).toEqual([object, was]);
    }
  });
});

describe('the rulebook', () => {
  test('has each rule once, with a source, and a repair where it says so', () => {
    expect(new Set(RULES.map(({ id }) => id)).size).toBe(RULES.length);
    for (const { id, why, measures, source, unit } of RULES) {
      expect([id, why.length > 40, measures.length > 8, unit.length > 0]).toEqual([id, true, true, true]);
      expect(['common practice', 'from memory', 'standard']).toContain(source);
    }
    expect(() => findRule('none')).toThrow(RangeError);
  });

  test('a limit that the shop set is what is judged by, a rule that it does not want finds nothing, and its school is followed', () => {
    const { design } = IN_DRAWINGS['too-open']!(drawing);
    const judged = (rules: typeof USUAL_RULES): string[] =>
      auditDesign({ ...design, program: design.program, target: { ...design.target, rules } }).map(({ rule }) => rule);
    expect(judged(USUAL_RULES)).toContain('too-open');
    expect(judged({ ...USUAL_RULES, limits: { 'too-open': 1.6 } })).not.toContain('too-open');
    expect(judged({ ...USUAL_RULES, off: ['too-open'] })).not.toContain('too-open');
    // Tatami first is right for most; a shop that lays the edge first is told of the others.
    const edgeFirst = { ...USUAL_RULES, schools: { ...USUAL_RULES.schools, underlayOrder: 'edge-first' as const } };
    expect([judged(USUAL_RULES).includes('underlay-order'), judged(edgeFirst).includes('underlay-order')]).toEqual([false, true]);
  });

  test('is printed in docs/audit.md as it stands', () => {
    const printed = readFileSync(new URL('../../docs/audit.md', import.meta.url), 'utf8').replace(/ +/g, ' ');
    for (const { id, group, title, measures, source, why } of RULES) {
      expect(printed).toContain(`| \`${id}\` | ${group} | ${title} | ${measures} |`);
      expect([id, printed.includes(`**${title}** (\`${id}\`): ${why}`), printed.includes(source)]).toEqual([id, true, true]);
    }
  });

  test('what thread a file was made for can be said, and takes the place of what it seems', () => {
    const { design } = IN_DRAWINGS['thread-mismatch']!(drawing);
    const find = (madeFor?: Design['target']['thread']) =>
      auditDesign({ ...design, program: design.program, target: { ...design.target, ...(madeFor === undefined ? {} : { madeFor }) } }).find(
        ({ rule }) => rule === 'thread-mismatch',
      );
    expect(find()).toMatchObject({ severity: 'note', measured: 30, limit: 40 });
    expect(find({ ...design.target.thread, id: 'thick', weight: 30 })).toMatchObject({ severity: 'fix', measured: 30 });
    expect(find(design.target.thread)).toBeUndefined();
  });
});
