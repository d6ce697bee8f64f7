import { describe, expect, test } from '@jest/globals';
import * as icons from '@mdi/js';
import { Clipper, FillRule } from 'clipper2-ts';
import { flattenPath } from '../../formats/svg/flattenPath.ts';
import { offsetRings } from '../../geometry/offset.ts';
import { lengthOfPath } from '../../geometry/path.ts';
import { containsPoint } from '../../geometry/ring.ts';
import { mapCover } from '../../measure/coverMap.ts';
import { ProgramBuilder } from '../../model/program.ts';
import { THREADS } from '../../materials/shop.ts';
import { generateFill } from '../fill/fill.ts';
import { generateEdgeRun, generateTatamiUnderlay } from '../underlay.ts';
import { someOf } from '../../testing/runs.ts';

// Shapes that nobody here drew: outlines of an open icon set (@mdi/js, Apache 2.0), with their areas taken by a geometry library (Clipper 2).

const NAMES = [
  ...['mdiAnchor', 'mdiAppleIcloud', 'mdiBasketball', 'mdiBell', 'mdiBird', 'mdiBone', 'mdiButterfly', 'mdiCactus', 'mdiCandle', 'mdiCat'],
  ...['mdiChessKnight', 'mdiCloud', 'mdiClover', 'mdiCoffee', 'mdiCrown', 'mdiDuck', 'mdiElephant', 'mdiFeather', 'mdiFire', 'mdiFish'],
  ...[
    'mdiFlower',
    'mdiGuitarAcoustic',
    'mdiHeart',
    'mdiHorseVariant',
    'mdiKey',
    'mdiKite',
    'mdiLeaf',
    'mdiMoonWaningCrescent',
    'mdiMusicClefTreble',
  ],
  ...[
    'mdiPaw',
    'mdiPineTree',
    'mdiPuzzle',
    'mdiRabbit',
    'mdiRocket',
    'mdiShark',
    'mdiSnowflake',
    'mdiStar',
    'mdiTeddyBear',
    'mdiTree',
    'mdiUmbrella',
  ],
];

interface Outline {
  readonly name: string;
  readonly rings: readonly Float64Array[];
  readonly area: number;
}

/** Outlines as 40 mm drawings, each with its area by the library; those whose parts lie on each other are no outlines and left out. */
function readOutlines(): Outline[] {
  const all = icons as Readonly<Record<string, string>>;
  return NAMES.filter((name) => name in all).flatMap((name): Outline[] => {
    const flat = flattenPath(all[name]!, 'scale(1.6667 -1.6667)', 1, 0.4);
    if (!flat.ok) throw new Error(`${name}: ${flat.error.found}`);
    const rings = flat.value.map((ring) => Float64Array.from(ring.slice(0, -2)));
    const paths = rings.map((ring) =>
      Array.from({ length: ring.length / 2 }, (_, k) => ({ x: ring[k * 2]! * 1e4, y: ring[k * 2 + 1]! * 1e4 })),
    );
    const [evenOdd, nonZero] = [FillRule.EvenOdd, FillRule.NonZero].map(
      (rule) => Math.abs(Clipper.areaPaths(Clipper.union(paths, rule))) / 1e8,
    );
    return Math.abs(evenOdd! - nonZero!) < 0.01 * nonZero! ? [{ name, rings, area: nonZero! }] : [];
  });
}

const OUTLINES = readOutlines();
const ANGLES = [0, 20, 45, 90, 113, 160];
const thread = THREADS.find((t) => t.weight === 40)!;

function sew(paths: readonly Float64Array[]) {
  const builder = new ProgramBuilder().color('#123456', 'Test thread');
  for (const path of paths) {
    builder.jump(path[0]!, path[1]!);
    for (let k = 0; k < path.length; k += 2) builder.stitch(path[k]!, path[k + 1]!);
    builder.trim();
  }
  return builder.end().build();
}

/** Length (mm) of a path that lies outside of rings, by points every 0.1 mm. */
function lengthOutside(rings: readonly Float64Array[], path: Float64Array): number {
  let outside = 0;
  for (let k = 2; k < path.length; k += 2) {
    const [x0, y0, x1, y1] = [path[k - 2]!, path[k - 1]!, path[k]!, path[k + 1]!];
    const parts = Math.max(1, Math.round(Math.hypot(x1 - x0, y1 - y0) / 0.1));
    for (let n = 0; n < parts; n++) {
      const t = (n + 0.5) / parts;
      if (!containsPoint(rings, x0 + t * (x1 - x0), y0 + t * (y1 - y0))) outside += Math.hypot(x1 - x0, y1 - y0) / parts;
    }
  }
  return outside;
}

describe('fills of outlines that nobody here drew', () => {
  test('there are enough of them, with holes and in parts too', () => {
    expect(OUTLINES.length).toBeGreaterThanOrEqual(30);
    expect(OUTLINES.filter((o) => o.rings.length > 1).length).toBeGreaterThanOrEqual(8);
  });

  test.each(someOf(OUTLINES))('$name is covered at the pitch asked for, and no thread lies on open cloth', ({ name, rings, area }) => {
    const angle = ANGLES[NAMES.indexOf(name) % ANGLES.length]!;
    const paths = generateFill(rings, { angle, spacing: 0.4, stitchLength: 4, offset: 0.3 });
    const near = offsetRings(rings, 0.3);
    let outside = 0;
    let laid = 0;
    for (const path of paths) {
      laid += lengthOfPath(path);
      outside += lengthOutside(near, path);
      for (let k = 0; k < path.length; k += 2) expect(containsPoint(near, path[k]!, path[k + 1]!)).toBe(true);
    }
    // Rows are half a pitch apart; travel between sections adds to them, thin ends that no row meets take away.
    expect((laid * 0.2) / area).toBeGreaterThan(0.9);
    expect((laid * 0.2) / area).toBeLessThan(1.25);
    expect(outside / laid).toBeLessThan(0.005);

    // Cells a millimetre inside the edge have thread on them.
    const cover = mapCover(sew(paths), thread);
    const deep = offsetRings(rings, -1);
    let bare = 0;
    let cells = 0;
    for (let row = 0; row < cover.rows; row++) {
      for (let column = 0; column < cover.columns; column++) {
        if (!containsPoint(deep, cover.minX + (column + 0.5) * cover.cell, cover.minY + (row + 0.5) * cover.cell)) continue;
        cells++;
        if (cover.cover[row * cover.columns + column]! < 0.4) bare++;
      }
    }
    expect(bare).toBeLessThanOrEqual(0.005 * cells);
  });

  test.each(someOf(OUTLINES))('the underlay of $name lies inside its edge', ({ rings }) => {
    // 0.6 mm, less what a run may cut of a bend, and its line of a ragged edge.
    const inset = offsetRings(rings, -0.3);
    for (const path of [...generateEdgeRun(rings), ...generateTatamiUnderlay(rings, 30)]) {
      for (let k = 0; k < path.length; k += 2) expect(containsPoint(inset, path[k]!, path[k + 1]!)).toBe(true);
    }
  });
});
