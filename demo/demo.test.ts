import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  applyOperation,
  auditDesign,
  inspectProgram,
  proposeOrder,
  regroupApplique,
  repairFindings,
  writeStitchCsv,
  startDesign,
} from '@isola/core';
import { scoreProgram, summarize } from '../bench/recognition/score.ts';
import { DEMO_JOBS } from './jobs.ts';
import type { DrawnObject } from './Sewing.ts';
import { writeDrawnObjects } from './writeDrawnObjects.ts';

/** What each file was made wrong in, on its own cloth. */
const FAULTS: Readonly<Record<string, readonly string[]>> = {
  heron: ['needless-trim', 'missing-tie'],
  chainring: ['too-dense', 'stacked-cover', 'long-stitch'],
  whisk: ['too-dense', 'tiny-stitch'],
  kettle: ['zone-overflow', 'machine-step', 'long-stitch'],
  birch: ['needless-jump', 'missing-tie', 'long-stitch'],
  pears: [],
  fobs: [],
  lantern: ['tiny-stitch', 'stacked-cover', 'missing-tie'],
};

describe.each(DEMO_JOBS)('demo job $file', ({ file, target, draw }) => {
  const { program, objects } = draw();
  const design = startDesign(program, target);

  test('the file beside the drawings is what they stitch', () => {
    expect(readFileSync(path.join(import.meta.dirname, `${file}.csv`), 'utf8')).toBe(writeStitchCsv(program));
  });

  test('what was drawn is written beside it, and recognized again from the bare stitches', () => {
    expect(readFileSync(path.join(import.meta.dirname, `${file}.objects.json`), 'utf8')).toBe(writeDrawnObjects(objects));
    // Placement lines and tack-downs are told as what they are, not as covers.
    const isStep = (drawn: DrawnObject): boolean => file === 'pears' && (drawn.kind === 'run' || drawn.spacing! > 1.5);
    const matches = scoreProgram({ name: file, program, objects }).filter(({ drawn }) => !isStep(drawn));
    // One small fill of the kettle loses its tip of four rows: three quarters of the rows are asked for, not four fifths.
    expect(matches.filter((m) => m.found?.kind !== m.drawn.kind || m.overlap < 0.75).map((m) => m.drawn)).toEqual([]);
    const { spacingMedian, angleMedian, layersFound } = summarize(matches);
    // Rivets of nine throws are sewn in whole ones, so that their pitch is up to a twentieth off what was asked for.
    expect(spacingMedian).toBeLessThan(0.05);
    expect(angleMedian || 0).toBeLessThan(1);
    // So few throws make no circle.
    const { outlineMedian } = summarize(matches.filter((m) => m.drawn.last - m.drawn.first > 12));
    expect(outlineMedian).toBeGreaterThan(0.965);
    expect(layersFound).toBeGreaterThan(0.75);
  });

  test('its own faults are found', () => {
    expect(auditDesign(design).map((f) => f.rule)).toEqual(expect.arrayContaining([...FAULTS[file]!]));
  });

  test('repairing all leaves nothing that can be repaired, and the same colors in the same order', () => {
    const { design: after } = repairFindings(design, () => true);
    expect(
      auditDesign(after)
        .filter((f) => f.fix !== undefined && f.severity !== 'note')
        .map((f) => f.message),
    ).toEqual([]);
    expect(after.program.threads).toEqual(program.threads);
    expect(inspectProgram(after.program, target).trims).toBeLessThanOrEqual(inspectProgram(program, target).trims);
  });
});

/** What each file loses by its order, and a good order does not: seconds, at least. */
const LOST: Readonly<Record<string, number>> = { heron: 200, whisk: 120, kettle: 60, fobs: 280 };

describe('lost time', () => {
  test.each(Object.entries(LOST))('of %s falls by what its faults are worth, with the picture as it was', (file, seconds) => {
    const { target, draw } = DEMO_JOBS.find((job) => job.file === file)!;
    const design = startDesign(draw().program, target);
    const { before, after, changed, design: better } = proposeOrder(design);
    expect(before.seconds - after.seconds).toBeGreaterThan(seconds);
    expect(changed).toBeLessThan(0.002);
    if (file === 'fobs') expect([design.plan.blocks.length, better.plan.blocks.length]).toEqual([36, 4]);
  });

  test('of the pears falls when they are sewn by step: two stops in place of six, and the fabrics are laid and cut at once', () => {
    const { target, draw } = DEMO_JOBS.find((job) => job.file === 'pears')!;
    const design = startDesign(draw().program, target);
    const regrouped = regroupApplique(design);
    if (!regrouped.ok) throw new Error(regrouped.error);
    const next = applyOperation(design, { id: 'sequence', operations: [...regrouped.value.operations] });
    if (!next.ok) throw new Error(next.error);
    expect(regrouped.value).toMatchObject({ pieces: 3, stops: [6, 2] });
    const roles = next.value.plan.blocks.map(({ objects }) => next.value.plan.objects[objects[0]!]!.sewn.reading.role);
    expect(roles.slice(0, 3)).toEqual(['placement', 'tackdown', 'cover']);
    // Steps have a number each: placement and tack-down are sewn with one thread, and are not merged.
    expect(next.value.plan.blocks.slice(0, 2).map(({ thread, keep }) => [thread?.name, keep])).toEqual([
      ['Bark', true],
      ['Bark', true],
    ]);
    const seconds = (of: typeof design): number => inspectProgram(of.program, target).run.seconds;
    expect(seconds(design) - seconds(next.value)).toBeGreaterThan(60);
    expect(
      proposeOrder(next.value)
        .design.plan.blocks.map(({ id }) => id)
        .slice(0, 2),
    ).toEqual(next.value.plan.blocks.map(({ id }) => id).slice(0, 2));
    expect(regroupApplique(startDesign(DEMO_JOBS[0]!.draw().program, target))).toEqual({ ok: false, error: 'there is no applique in it' });
  });
});
