import { describe, expect, test } from '@jest/globals';
import { sayClock, sayPull } from '../materials/sayLearned.ts';
import { defaultTarget } from '../materials/shop.ts';
import { ProgramBuilder } from '../model/program.ts';
import type { Target } from '../model/target.ts';
import { CHECK_IDS, checkRelease, checksLeft, type ReleaseCheck } from './checkList.ts';

/** Two threads, the second without a name, 40 mm across. */
const program = new ProgramBuilder()
  .color('#1f4e79', 'Deep water')
  .jump(-20, 0)
  .stitch(-20, 0)
  .stitch(-17, 0)
  .color('#b8722c', '')
  .jump(17, 0)
  .stitch(17, 0)
  .stitch(20, 0)
  .trim()
  .end()
  .build();
const check = (more: Partial<Target> = {}, stops: readonly string[] = []): ReleaseCheck[] =>
  checkRelease({ program, target: { ...defaultTarget(), ...more }, kept: {} }, stops);
const line = (list: readonly ReleaseCheck[], id: ReleaseCheck['id']): ReleaseCheck => list.find((one) => one.id === id)!;

describe('the check list of a release', () => {
  test('goes through every line once, and says what was found', () => {
    const list = check();
    expect(list.map(({ id }) => id)).toEqual([...CHECK_IDS]);
    expect(line(list, 'stops')).toMatchObject({ isSettled: true, title: 'Nothing stands against sewing it' });
    expect(line(list, 'threads')).toMatchObject({ isSettled: false, found: 'without a name: needle 2 (#b8722c)' });
    expect(line(list, 'stock')).toMatchObject({ isSettled: true, found: expect.stringContaining('2 cones of 40-weight rayon') });
    expect(line(list, 'needles').found).toBe('2 of 9 in use, size 75');
    expect(line(list, 'hoop').found).toBe('33.0 mm to spare in round 120');
    expect(line(list, 'cautions').isSettled).toBe(false);
  });

  test('opens what does not fit: stops, stock, needles, a design that runs out of its hoop however it lies there', () => {
    const target = defaultTarget();
    expect(line(check({}, ['4 layers thick']), 'stops')).toMatchObject({ isSettled: false, found: '4 layers thick' });
    const counted = (cones: number) => line(check({ thread: { ...target.thread, cones } }), 'stock');
    expect([counted(1).isSettled, counted(2).isSettled]).toEqual([false, true]);
    expect(counted(1).found).toContain('1 in stock');
    // Each head has a cone of each thread.
    const heads = line(check({ machine: { ...target.machine, heads: 6 }, thread: { ...target.thread, cones: 11 } }), 'stock');
    expect(heads).toMatchObject({ isSettled: false, found: expect.stringMatching(/^12 cones/) });
    expect(line(check({ machine: { ...target.machine, needles: 1 } }), 'needles')).toMatchObject({
      ...{ isSettled: false, found: '2 threads for 1 needles: 1 put on by hand in each run' },
    });
    const moved = line(check({ place: { x: 0, y: 45, turn: 90 } }), 'hoop');
    expect(moved).toMatchObject({ isSettled: false, found: expect.stringMatching(/^it runs 12\.0 mm out of the field of round 120/) });
    expect(line(check({ place: { x: 0, y: 45, turn: 0 } }), 'hoop').isSettled).toBe(true);
  });

  test('is passed with a reason for each line that is open, and no shorter one', () => {
    const list = check({}, ['4 layers thick']);
    const left = (signed: Record<string, string>): string[] => checksLeft(list, signed).map(({ id }) => id);
    expect(left({})).toEqual(['stops', 'threads', 'cautions']);
    expect(left({ stops: 'ok', threads: '   ', cautions: 'read' })).toEqual(['stops', 'threads']);
    expect(left({ stops: 'sewn before', threads: 'a sample thread', cautions: 'read' })).toEqual([]);
  });
});

describe('what was learned, in words', () => {
  test('says value, spread and samples, or that nothing stands behind it', () => {
    const { fabric, machine } = defaultTarget();
    expect(sayPull(fabric)).toBe('0.28 mm');
    expect(sayPull({ pull: 0.304, learned: { from: 0.28, spread: 0.041, samples: 1, readings: 8 } })).toBe(
      '0.30 ± 0.04 mm (learned of 1 sample)',
    );
    expect(sayClock(machine)).toContain('not learned of samples');
    const learned = { from: machine, speedSpread: 41.6, trimSpread: 1.234, samples: 3 };
    expect(sayClock({ learned })).toBe('its clock learned of 3 samples: speed ± 42 a minute, a trim ± 1.2 s');
  });
});
