import { describe, expect, test } from '@jest/globals';
import { ProgramBuilder, type StitchObject } from '@isola/core';
import type { ClothObjects } from '../../workers/clothProtocol.ts';
import { maskOfPart } from '../cloth/maskOfPart.ts';
import { colorOfDirection, DIRECTION_COLORS, paintDirections } from '../cloth/views/directions.ts';
import { LEVEL_COLORS, paintLayers } from '../cloth/views/layers.ts';
import { batchesInSight, rowsOfBatch, type Sheet, traceBatch } from '../cloth/sheet.ts';
import { planStrokes } from '../cloth/strokes.ts';
import { sayDoubt, sayFigures, saySize, sayUnderlay } from './sayObject.ts';

/** A stitch to the right, one up, one back along 150°, and one to the right. */
const program = new ProgramBuilder()
  .color('#1f4e5f', 'Harbor')
  .stitch(0, 0)
  .stitch(3, 0)
  .stitch(3, 3)
  .stitch(0.4, 4.5)
  .stitch(4, 4.5)
  .end()
  .build();
const objects: ClothObjects = {
  ownerOfRow: Int32Array.from({ length: program.rowCount }, (_, i) =>
    i === 0 || i === program.rowCount - 1 ? -1 : i < 3 ? 0 : i < 4 ? 1 : 2,
  ),
  roles: ['cover', 'underlay', 'cover'],
  levels: Int32Array.of(0, 0, 7),
};

/** Notes what was stroked in which color instead of drawing it. */
class NotedPath {
  readonly lines: string[] = [];
  moveTo(x: number, y: number): void {
    this.lines.push(`${x},${y}`);
  }
  lineTo(x: number, y: number): void {
    this.lines[this.lines.length - 1] += ` ${x},${y}`;
  }
}

function paint(act: (sheet: Sheet) => void, mask?: Uint8Array): Map<string, string[]> {
  const stroked = new Map<string, string[]>();
  const own = new NotedPath();
  const ctx = {
    strokeStyle: '',
    moveTo: (x: number, y: number) => own.moveTo(x, y),
    lineTo: (x: number, y: number) => own.lineTo(x, y),
    stroke(path: NotedPath) {
      stroked.set(this.strokeStyle, [...(stroked.get(this.strokeStyle) ?? []), ...path.lines]);
    },
  };
  Object.assign(globalThis, { Path2D: NotedPath });
  act({
    ctx: ctx as unknown as Sheet['ctx'],
    program,
    strokes: planStrokes(program),
    projection: { scale: 1, originX: 0, originY: 0 },
    upTo: program.rowCount,
    box: [-10, -10, 10, 10],
    ...(mask === undefined ? {} : { mask }),
  });
  if (own.lines.length > 0) stroked.set('traced', own.lines);
  return stroked;
}

describe('objects on the cloth', () => {
  test('directions have colors that go over into one another, the same the other way round', () => {
    DIRECTION_COLORS.forEach((color, k) => {
      for (const turn of [0, 180, -180, 360]) expect(colorOfDirection(30 * k + turn)).toBe(color);
    });
    const channels = (degrees: number): number[] => [1, 3, 5].map((k) => parseInt(colorOfDirection(degrees).slice(k, k + 2), 16));
    for (let degrees = -40; degrees < 220; degrees++) {
      const [here, next] = [channels(degrees), channels(degrees + 1)];
      // Less than a sixth of the way from one color to the next, which are 60 to 140 steps apart in a channel.
      expect(Math.max(...here.map((v, k) => Math.abs(v - next[k]!)))).toBeLessThan(26);
    }
    expect(channels(45)).toEqual(channels(30).map((v, k) => Math.round(v + 0.5 * (channels(60)[k]! - v))));
  });

  test('directions are painted stitch by stitch, whatever the thread', () => {
    const stroked = paint((sheet) => paintDirections(sheet, 0, sheet.strokes.threads.length));
    expect([...stroked.keys()].sort()).toEqual([DIRECTION_COLORS[0], DIRECTION_COLORS[3], DIRECTION_COLORS[5]].sort());
    expect(stroked.get(DIRECTION_COLORS[0]!)).toEqual(['0,0 3,0', '0.4,-4.5 4,-4.5']);
  });

  test('layers are painted by how many covers lie under them, and all faint while objects are not known', () => {
    const stroked = paint((sheet) => paintLayers(sheet, objects, 0, sheet.strokes.threads.length));
    expect(stroked.get(LEVEL_COLORS[0]!)).toEqual(['0,0 3,0']);
    expect(stroked.get(LEVEL_COLORS[LEVEL_COLORS.length - 1]!)).toHaveLength(2);
    expect(stroked.size).toBe(3);
    expect(paint((sheet) => paintLayers(sheet, undefined, 0, sheet.strokes.threads.length)).size).toBe(1);
  });

  test('a part shows its rows and no others, and a line that was interrupted starts anew', () => {
    const mask = maskOfPart(program.rowCount, objects, 'cover')!;
    const traced = paint((sheet) => {
      for (const k of batchesInSight(sheet, 0, sheet.strokes.threads.length)) {
        for (const row of rowsOfBatch(sheet, k)) expect(mask[row]).toBe(1);
        traceBatch(sheet, k);
      }
    }, mask).get('traced')!;
    expect(traced).toEqual(['0,0 3,0', '3,-3 0.4,-4.5 4,-4.5']);
    expect(maskOfPart(program.rowCount, objects, [1])!.reduce((sum, v) => sum + v, 0)).toBe(1);
    expect(maskOfPart(program.rowCount, objects, 'travel')!.reduce((sum, v) => sum + v, 0)).toBe(0);
    expect(maskOfPart(program.rowCount, undefined, 'cover')).toBeUndefined();
  });
});

describe('objects in words', () => {
  const place = { x: 1, y: 2 };
  const fill: StitchObject = {
    ...{
      id: 'o1',
      name: 'fill, left, 20 mm',
      kind: 'fill',
      role: 'cover',
      thread: 0,
      color: '#1f4e5f',
      first: 3,
      last: 9,
      spans: [],
      stitches: 7,
    },
    ...{
      spacing: 0.4,
      angle: 45.4,
      stitchLength: 4,
      outline: Float64Array.of(0, 0, 20, 0, 20, 8, 0, 8),
      holes: [],
      entry: place,
      exit: place,
    },
    underlay: [
      { kind: 'tatami', object: 'o2', first: 0, last: 1, spacing: 3.5, angle: 135 },
      { kind: 'edge-run', object: 'o3', first: 2, last: 2 },
    ],
    confidence: 0.97,
  };

  test('say figures, underlay and size as a digitizer would', () => {
    expect(sayFigures(fill)).toBe('0.40 mm · 45° · on tatami, edge run');
    expect(sayUnderlay(fill)).toBe('tatami 3.5, then edge run');
    expect(saySize(fill)).toBe('20.0 × 8.0 mm');
    const { spacing: _, angle: __, ...rest } = fill;
    const run: StitchObject = {
      ...rest,
      kind: 'run',
      passes: 3,
      underlay: [],
      outline: new Float64Array(0),
      path: Float64Array.of(0, 0, 5, 1),
    };
    expect(sayFigures(run)).toBe('stitch 4.0 · 3 passes');
    expect(saySize(run)).toBe('5.0 × 1.0 mm');
    expect(sayFigures({ ...fill, kind: 'satin', width: { mean: 3.12, min: 2, max: 4 }, underlay: [] })).toBe('0.40 mm · 3.1 wide');
    expect(sayFigures({ ...fill, pattern: 'contour', underlay: [] })).toBe('0.40 mm · stitch 4.0');
  });

  test('say why they are doubted, and nothing of those that are sure', () => {
    expect(sayDoubt(fill)).toBe('');
    expect(sayDoubt({ ...fill, confidence: 0.4 })).toContain('rows change');
    expect(sayDoubt({ ...fill, kind: 'run', confidence: 0.4 })).toContain('turns back');
    expect(sayDoubt({ ...fill, kind: 'other' })).toContain('Not understood');
  });
});
