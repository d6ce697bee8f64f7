import { describe, expect, test } from '@jest/globals';
import { generateFill } from '../generate/fill/fill.ts';
import { generateSatin } from '../generate/column/satin.ts';
import { generateEdgeRun, generateTatamiUnderlay } from '../generate/underlay.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { defaultTarget, THREADS } from '../materials/shop.ts';
import { ProgramBuilder, STITCH } from '../model/program.ts';
import { designOf, startDesign } from '../plan/designOf.ts';
import { recognizeProgram } from '../recognize/recognizeProgram.ts';
import { specOf } from '../recognize/read/specOf.ts';
import { adaptFactor, adaptThread } from './adaptThread.ts';
import { applyOperation } from './operations/registry.ts';
import { proposeOpening } from './proposeOpening.ts';
import { sewSpecs } from './sewSpecs.ts';

/** A jacket back: broad fills on full underlay, a few columns as its drawing; some 20,000 stitches. */
function jacketBack() {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  const sew = (path: Float64Array): void => {
    builder.trim().jump(path[0]!, path[1]!);
    for (let k = 0; k < path.length; k += 2) builder.stitch(Math.round(path[k]! * 1000) / 1000, Math.round(path[k + 1]! * 1000) / 1000);
  };
  for (const [x, y, width, height, angle] of [
    [-90, -60, 80, 90, 20],
    [5, -60, 80, 60, 110],
    [5, 15, 80, 45, 60],
  ] as const) {
    const ring = Float64Array.of(x, y, x + width, y + 6, x + width - 8, y + height, x + 5, y + height - 4);
    builder.color(`#${(0x2a5060 + x * 40).toString(16).padStart(6, '0').slice(-6)}`, '');
    for (const path of [...generateTatamiUnderlay([ring], angle), ...generateEdgeRun([ring])]) sew(path);
    for (const path of generateFill([ring], { angle, spacing: 0.4, stitchLength: 4, offset: 0.3 })) sew(path);
  }
  builder.color('#fffdf8', 'Bone');
  for (const y of [-80, -75])
    sew(generateSatin(Float64Array.of(-60, y + 3, 60, y + 3), Float64Array.of(-60, y, 60, y), { spacing: 0.4, pull: 0, splitLength: 7 }));
  return startDesign(builder.trim().end().build(), { ...defaultTarget(), fabric: FABRICS.find((f) => f.id === 'softshell')! });
}

describe('another thread', () => {
  const weight = (w: number) => THREADS.find((t) => t.weight === w)!;

  test('by thickness pitches go with the root of tex (ISO 1144): 1.15 times at 30, 1.83 at 12; by habit a third comes off each time', () => {
    expect(adaptFactor(weight(40), weight(30), 'thickness')).toBeCloseTo(1.155, 2);
    expect(adaptFactor(weight(40), weight(12), 'thickness')).toBeCloseTo(1.826, 2);
    expect(adaptFactor(weight(40), weight(30), 'third-off')).toBeCloseTo(1.52, 2);
    expect(adaptFactor(weight(40), weight(12), 'third-off')).toBeCloseTo(2.3, 2);
    expect(adaptFactor(weight(12), weight(40), 'third-off')).toBeCloseTo(0.436, 2);
  });

  test('reaches every object, or those of a color, and stops at what the cloth bears', () => {
    const design = jacketBack();
    const all = adaptThread(design, weight(12), 'thickness');
    // A file that was made for the thread it goes to stays as it is.
    const made = adaptThread({ ...design, target: { ...design.target, madeFor: weight(12) } }, weight(12), 'thickness');
    expect([made.factor, made.edits]).toEqual([1, []]);
    expect(all.edits).toHaveLength(5);
    expect(all.edits[0]!.spec!.spacing).toBeCloseTo(0.73, 1);
    expect(adaptThread(design, weight(12), 'thickness', { color: '#fffdf8' }).edits).toHaveLength(2);
    const [one] = all.edits;
    expect(adaptThread(design, weight(12), 'thickness', { objects: [one!.object] }).edits).toEqual([one]);
    const fine = adaptThread(design, weight(60), 'third-off');
    expect(fine.edits.every((e) => e.spec!.spacing < 0.4)).toBe(true);
    const thin = designOf(design.plan, { ...design.target, fabric: { ...design.target.fabric, maxCover: 1 } });
    const held = adaptThread(thin, weight(60), 'third-off');
    expect(held.held).toBe(5);
  });
});

describe('opening up a heavy design', () => {
  test('a jacket back of some 20,000 stitches comes to under 30 % of them, largest saving first, with its shapes still there', () => {
    const design = jacketBack();
    const proposal = proposeOpening(design, 0);
    expect(proposal.stitches).toBeGreaterThan(15_000);
    expect(proposal.steps).toHaveLength(3);
    const savings = proposal.steps.map((s) => s.before - s.after);
    expect(savings).toEqual([...savings].sort((a, b) => b - a));
    // Common practice: about 60 % when the largest area goes, little over a quarter when all do.
    expect(proposal.steps[0]!.total / proposal.stitches).toBeGreaterThan(0.45);
    expect(proposal.steps[0]!.total / proposal.stitches).toBeLessThan(0.72);
    const { operations } = sewSpecs(
      design,
      proposal.steps.map((s) => s.edit),
    );
    const next = applyOperation(design, { id: 'sequence', operations: [...operations] });
    if (!next.ok) throw new Error(next.error);
    const count = next.value.program.command.reduce((sum, c) => sum + (c === STITCH ? 1 : 0), 0);
    expect(count).toBe(proposal.steps[2]!.total);
    expect(count).toBeLessThan(0.3 * proposal.stitches);
    const after = recognizeProgram(next.value.program).objects.filter((o) => o.role === 'cover' && o.kind === 'fill');
    expect(after).toHaveLength(3);
    const spec = specOf(next.value.program, after[0]!);
    expect(spec.ok && spec.value.underlay).toEqual([]);
    const some = proposeOpening(design, 0.7 * proposal.stitches);
    expect(some).toMatchObject({ isReached: true });
    // What it does not take could be taken besides: together they are all that can be opened, each with its own saving.
    expect([...some.steps, ...some.spare].map((step) => step.edit.object)).toEqual(proposal.steps.map((step) => step.edit.object));
    expect(some.spare.map((step) => step.before - step.after)).toEqual(savings.slice(some.steps.length));
    expect(proposeOpening(design, 100).isReached).toBe(false);
  });
});
