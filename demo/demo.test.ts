import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { auditDesign, inspectProgram, repairFindings, writeStitchCsv, startDesign } from '@isola/core';
import { scoreProgram, summarize } from '../bench/recognition/score.ts';
import { DEMO_JOBS } from './jobs.ts';
import { writeDrawnObjects } from './writeDrawnObjects.ts';

/** What each file was made wrong in, on its own cloth. */
const FAULTS: Readonly<Record<string, readonly string[]>> = {
  heron: ['needless-trim', 'missing-tie'],
  chainring: ['too-dense', 'stacked-cover', 'long-stitch'],
  whisk: ['too-dense', 'tiny-stitch'],
  kettle: ['zone-overflow', 'machine-step', 'long-stitch'],
  birch: ['needless-jump', 'missing-tie', 'long-stitch'],
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
    const matches = scoreProgram({ name: file, program, objects });
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
