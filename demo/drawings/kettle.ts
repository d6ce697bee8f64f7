import { Sewing } from '../Sewing.ts';
import { area, column, dot, leaf, line } from '../shapes.ts';

/**
 * A campground's kettle over a fire for caps. It stands 2 mm too high for the cap's front, its flames are satins broader than a machine can
 * stitch, and it sews from the outside in.
 */
export function drawKettle(): Sewing {
  const s = new Sewing(0, -1.2);

  s.thread('#2f5d4a', 'Spruce');
  for (const [x, size] of [
    [-49, 1],
    [-36.5, 0.78],
    [50, 0.94],
    [37.5, 0.72],
  ] as const) {
    for (let k = 0; k < 3; k++) {
      const y = -19 + k * 11.5 * size;
      const half = (8.4 - k * 1.9) * size;
      s.fill(area(`M${x - half} ${y}L${x} ${y + 16 * size}L${x + half} ${y}Q${x} ${y + 2.6 * size} ${x - half} ${y}Z`), {
        angle: k % 2 === 0 ? 20 : 155,
        underlay: 'tatami',
      });
    }
  }
  s.thread('#7b5334', 'Bark');
  for (const [x, size] of [
    [-49, 1],
    [-36.5, 0.78],
    [50, 0.94],
    [37.5, 0.72],
  ] as const) {
    s.satin(column(line(`M${x} ${-18.4}L${x} ${-23.6}`), 2.6 * size));
  }
  s.satin(column(line('M-17 -26.4L15.6 -20.4'), 3.4), { underlay: 'edge' });
  s.satin(column(line('M17 -26.4L-15.6 -20.4'), 3.4), { underlay: 'edge' });

  s.thread('#e2632b', 'Ember');
  s.satin(leaf(-6.5, -22, -8.2, -4.6, 9.4, 2), { splitLength: 99, underlay: 'edge' });
  s.satin(leaf(6.5, -22, 8.6, -4.2, 9.4, -2), { splitLength: 99, underlay: 'edge' });
  s.satin(leaf(0, -22.4, 0.6, -1.6, 15, 0.6), { splitLength: 99, underlay: 'edge' });
  s.thread('#f1b03c', 'Flame');
  s.satin(leaf(-1.6, -21.4, -3.4, -9, 5, 1));
  s.satin(leaf(2.6, -21.4, 3.6, -11, 4.2, -1));

  s.thread('#3f7f94', 'Enamel');
  s.fill(area('M-14.4 -2.6C-17.4 4 -16 12.4 -10.8 16.6L10.8 16.6C16 12.4 17.4 4 14.4 -2.6C10 -5 -10 -5 -14.4 -2.6Z'), { angle: 45 });
  s.satin(
    column(line('M14.6 4.4C19.4 5 22 9 24.4 13.6'), (t) => 5 - 2.2 * t),
    { underlay: 'edge' },
  );
  s.thread('#d9e4e3', 'Tin white');
  s.satin(column(line('M-10.4 1C-11.8 5 -11.2 9.4 -8.8 12.6'), (t) => 0.7 + 1.7 * Math.sin(Math.PI * t)));
  s.satin(column(line('M-11.6 17.2C-4 18.6 4 18.6 11.6 17.2'), 2.2));
  for (const [x, y] of [
    [2, 10],
    [8.6, 7],
    [5.4, 1.6],
    [-2.8, 3],
    [-1.6, -1.8],
  ] as const) {
    s.satin(dot(x, y, 0.9), { underlay: 'none' });
  }
  s.thread('#242a2e', 'Soot');
  s.satin(column(line('M-14.8 15C-19.6 33.6 19.6 33.6 14.8 15'), 2));
  s.satin(dot(0, 20.4, 2.1), { underlay: 'none' });
  return s;
}
