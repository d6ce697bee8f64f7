import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { auditDesign, inspectProgram, repairFindings, writeStitchCsv } from '@isola/core';
import { DEMO_JOBS } from './jobs.ts';

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
  const design = { program, target, kept: {} };

  test('the file beside the drawings is what they stitch', () => {
    expect(readFileSync(path.join(import.meta.dirname, `${file}.csv`), 'utf8')).toBe(writeStitchCsv(program));
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
