import { describe, expect, test } from '@jest/globals';
import type { SewOut } from '@isola/core';
import {
  auditDesign,
  checkRelease,
  defaultTarget,
  expectRun,
  isSameProgram,
  learnPull,
  objectsOf,
  plantFaults,
  proposePlaces,
  readDesignJson,
  runClock,
  SamplePlace,
  startDesign,
  widthAt,
  writeDesignJson,
} from '@isola/core';
import { handSet } from './recognition/handSet.ts';
import { IS_GUARD, someOf, triesOf } from '../packages/core/src/testing/runs.ts';

// Samples, practice and design JSON on programs that our generators did not stitch.

const target = defaultTarget();
const programs = someOf(handSet('kept')).map(({ name, program }) => ({ name, program, design: startDesign(program, target) }));

describe('samples of programs that our generators did not stitch', () => {
  test('are measured across covers from penetration to penetration, and at gaps; what the clock expects adds up', () => {
    let [widths, gaps] = [0, 0];
    for (const { name, program, design } of programs) {
      const { objects } = objectsOf(design.plan);
      const places = proposePlaces(program, objects, target);
      const isPenetration = (at: { x: number; y: number }): boolean =>
        program.x.some((x, k) => program.command[k] === 0 && x === at.x && program.y[k] === at.y);
      for (const place of places) {
        expect([name, SamplePlace.safeParse(place).success]).toEqual([name, true]);
        if (place.kind === 'gap') {
          gaps++;
          expect([name, place.expected > 0.1]).toEqual([name, true]);
          continue;
        }
        widths++;
        expect([name, isPenetration(place.from) && isPenetration(place.to)]).toEqual([name, true]);
        expect([name, place.expected < place.designed && place.perPull < 0]).toEqual([name, true]);
        // Whoever points there measures there, or at what lies on top of it.
        const pointed = widthAt(program, objects, target, { x: (place.from.x + place.to.x) / 2, y: (place.from.y + place.to.y) / 2 });
        expect([name, pointed === undefined || pointed.designed > 0.5]).toEqual([name, true]);
      }
      const { sewing, trims, rest, seconds } = expectRun(program, target.machine);
      expect([name, Math.abs(sewing + trims * target.machine.trimCycle + rest - seconds) < 1e-6]).toEqual([name, true]);
      expect([name, seconds]).toEqual([name, runClock(program, target.machine).totals.seconds]);
    }
    expect(widths).toBeGreaterThan(programs.length / 2);
    expect(gaps).toBeGreaterThanOrEqual(triesOf(4));
  });

  test('teach the pull that they were sewn with, whoever stitched the file', () => {
    const real = 0.4;
    const samples: SewOut[] = [];
    for (const { program, design } of programs) {
      const { objects } = objectsOf(design.plan);
      const places = proposePlaces(program, objects, target).map((place) => ({
        ...place,
        measured: Math.max(0, place.designed + place.perPull * real),
      }));
      const { fabric, garment, thread, machine } = target;
      samples.push({
        ...{ revision: 1, sewnOn: '2026-03-02', who: 'Mara', fabric, garment, thread, machine, minutes: null, breaks: 0, note: '' },
        ...{ expected: expectRun(program, machine), puckering: 'none', counts: true, places },
      });
    }
    const lesson = learnPull(target.fabric, samples)!;
    expect(lesson.samples).toBeGreaterThan(programs.length / 2);
    expect(lesson.mean).toBeGreaterThan(0.38);
    expect(lesson.mean).toBeLessThan(0.41);
  });
});

describe('programs that our generators did not stitch', () => {
  test('go through design JSON bit for bit, and through the check list without a line that says nothing', () => {
    for (const { name, program } of programs) {
      const read = readDesignJson(writeDesignJson(program, { name, target }));
      expect([name, read.ok && isSameProgram(read.value.program, program)]).toEqual([name, true]);
      const list = checkRelease({ program, target, kept: {} }, []);
      expect([name, list.filter(({ found }) => found === '')]).toEqual([name, []]);
    }
  });

  test('are practised on: what is planted is found where it was planted, and nothing of it was there before', () => {
    let planted = 0;
    for (const [k, { name, program, design }] of programs.filter((_, at) => (IS_GUARD ? at % 9 === 2 && at > 2 : at % 4 === 3)).entries()) {
      const before = auditDesign(design);
      const file = plantFaults(program, target, 2, 11 + k);
      const now = auditDesign(startDesign(file.program, target));
      const isThere = (findings: typeof now, { rule, box }: (typeof file.planted)[number]): boolean =>
        findings.some(
          (one) => one.rule === rule && one.places.some(({ x, y }) => x > box[0] - 1 && x < box[2] + 1 && y > box[1] - 1 && y < box[3] + 1),
        );
      for (const fault of file.planted)
        expect([name, fault.rule, isThere(now, fault), isThere(before, fault)]).toEqual([name, fault.rule, true, false]);
      planted += file.planted.length;
    }
    expect(planted).toBeGreaterThanOrEqual(triesOf(3));
  });
});
