import { Sewing } from '../Sewing.ts';
import { area, column, leaf, line, type Rails } from '../shapes.ts';

/**
 * A bakery's whisk and wheat for canvas aprons, made for a thinner thread: everything is spaced for 60 weight, so that 30 weight piles up.
 * The wheat's tips creep in stitches too small to sew.
 */
export function drawWhisk(): Sewing {
  const s = new Sewing();
  const thin = { spacing: 0.26, pull: 0.1 };

  s.thread('#b9822f', 'Ripe wheat');
  s.satin(column(line('M30 -44C22 -26 2 2 -14 22'), 1.3), thin);
  for (let k = 0; k < 8; k++) {
    const t = k / 7;
    const x = 6 - 27 * t;
    const y = -4 + 35 * t;
    for (const side of [1, -1] as const) {
      s.satin(leaf(x, y, x - 7.5 + side * 6.2, y + 9.6 + side * 5, 4.2, side * 1.4), thin);
      creep(s, x - 7.5 + side * 6.2, y + 9.6 + side * 5);
    }
  }
  s.satin(leaf(-22, 32, -31, 44, 4, 0.6), thin);

  s.thread('#6d7f49', 'Stem green');
  s.fill(area('M20 -28C30 -27 38 -20 41 -8C31 -10 22 -17 20 -28Z'), { angle: 70, spacing: 0.28, stitchLength: 3.6 });
  s.fill(area('M27 -40C36 -44 46 -42 53 -34C43 -30 33 -32 27 -40Z'), { angle: 10, spacing: 0.28, stitchLength: 3.6 });

  s.thread('#8d959a', 'Steel');
  for (const bulge of [15, 9.6, 4]) {
    s.satin(wire(bulge), thin);
  }
  s.satin(
    column(line('M-9 -13.6L20 22.2'), (t) => (t > 0.985 ? 0.8 : 1.4)),
    thin,
  );

  s.thread('#7a4a2c', 'Walnut');
  s.fill(
    area(
      'M-6.6 -17.8L-12.6 -13C-14 -12 -15.6 -12.4 -16.6 -13.8L-37 -38.6C-39.6 -42 -39.2 -46 -36 -48.4C-32.8 -50.8 -28.8 -50 -26.2 -46.8L-6.2 -21.6C-5.2 -20.2 -5.2 -19 -6.6 -17.8Z',
    ),
    {
      angle: 140,
      spacing: 0.27,
    },
  );
  s.thread('#e8dcc0', 'Flour');
  s.satin(column(line('M-13.8 -22.6L-19.4 -18.2'), 1.5), thin);
  s.satin(column(line('M-16 -25.4L-21.6 -21'), 1.5), thin);
  s.satin(column(line('M-31.6 -43.8L-33.6 -42.2'), 2.4), thin);
  return s;
}

/** A loop of wire from the handle out and back, `bulge` mm to either side. */
function wire(bulge: number): Rails {
  const ux = 0.63;
  const uy = 0.777;
  const at = (along: number, across: number): string =>
    `${(-9.4 + ux * along - uy * across).toFixed(2)} ${(-15.6 + uy * along + ux * across).toFixed(2)}`;
  return column(
    line(
      `M${at(2, 0.6)}C${at(14, bulge * 0.5)} ${at(34, bulge * 1.55)} ${at(50, 0)}C${at(34, -bulge * 1.55)} ${at(14, -bulge * 0.5)} ${at(2, -0.6)}`,
    ),
    1.3,
  );
}

function creep(s: Sewing, x: number, y: number): void {
  const points: number[] = [];
  for (let k = 0; k < 7; k++) points.push(x + 0.14 * k, y + 0.08 * (k % 2));
  s.part(Float64Array.from(points), { approach: 'stitch', isRaw: true });
}
