import { Sewing } from '../Sewing.ts';
import { column, dot, leaf, line } from '../shapes.ts';

/**
 * A sauna's birch branch for terry robes: every leaf jumps to its vein within a stitch's reach, half its ends are not locked, and the long
 * leaves lie in stitches that the loops catch.
 */
export function drawBirch(): Sewing {
  const s = new Sewing();
  const loose = { isLocked: false } as const;

  s.thread('#6e5844', 'Bark brown');
  s.satin(
    column(line('M-41 -36C-26 -26 -8 -10 4 6C14 20 24 32 40 41'), (t) => 3.2 - 2.2 * t),
    { underlay: 'edge' },
  );
  s.satin(
    column(line('M-8 -9C-12 2 -20 12 -31 18'), (t) => 2 - 1.1 * t),
    { approach: 'jump' },
  );
  s.satin(
    column(line('M6 9C16 10 26 7 37 -1'), (t) => 2 - 1.1 * t),
    { approach: 'jump' },
  );

  const leaves: readonly (readonly [number, number, number, number, number, number])[] = [
    [-29, -25, -44, -17, 7.6, -2.4],
    [-20, -19.6, -14, -36, 8.2, 2.6],
    [-14, 2, -30, -3, 7.8, 2.2],
    [-19, 11, -14, 27, 7.8, -2.2],
    [-31, 18, -47, 21, 8.6, 2.2],
    [-5, -6, 9, -20, 8.6, 2.6],
    [16, 9.4, 20, -8, 8.4, 2],
    [26, 7.2, 42, 12.6, 7.6, -2],
    [37, -1, 49, -14, 8.2, -2],
    [10, 15, -4, 26, 8.4, -2],
    [20, 27.6, 8, 42, 8.6, -2.4],
    [29, 34.8, 46, 27, 7.6, 2],
    [40, 41, 34, 53, 7, 1.8],
  ];
  leaves.forEach(([x0, y0, x1, y1, width, bend], k) => {
    if (k === 0) s.thread('#7fa34d', 'Young birch');
    if (k === 7) s.thread('#5b8444', 'Summer birch');
    s.satin(leaf(x0, y0, x1, y1, width * 1.12, bend), { splitLength: 99, underlay: 'edge', ...(k % 2 === 0 ? loose : {}) });
    const vein = line(`M${x0 + (x1 - x0) * 0.93} ${y0 + (y1 - y0) * 0.93}L${x0} ${y0}`);
    s.run(vein, 2, 2, { approach: 'jump' });
  });

  s.thread('#b98f4e', 'Catkin');
  for (const [x, y] of [
    [-3, -2],
    [1.4, -7.4],
    [24, 24],
  ] as const) {
    for (let k = 0; k < 5; k++) s.satin(dot(x + k * 0.5, y - 3 - k * 2.5, 1.5 - k * 0.12), { approach: 'jump', underlay: 'none' });
  }
  return s;
}
