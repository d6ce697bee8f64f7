import { resamplePath } from '@isola/core';
import { Sewing } from '../Sewing.ts';
import { arc, area, column, dot, ellipse, leaf, line } from '../shapes.ts';

/**
 * A rowing club's heron in an oval of rope, 88 × 74 mm. Its faults: the rivets of the rim are cut one by one though they lie 1.4 mm apart,
 * and the ends of the water are not locked.
 */
export function drawHeron(): Sewing {
  const s = new Sewing();

  s.thread('#2f6f73', 'Deep water');
  for (const [y, from, to] of [
    [-25.5, -22, 24],
    [-22.2, -29, 31],
    [-18.8, -24, 27],
  ] as const) {
    s.run(line(wave(from, to, y)), 3, 2.5, { isLocked: false });
  }

  s.thread('#5f7a4c', 'Reed green');
  for (const [x, lean, height] of [
    [-26, -4, 30],
    [-24.2, 1, 37],
    [-22.2, 3.5, 27],
  ] as const) {
    s.satin(leaf(x, -21, x + lean, -21 + height, 2.1, lean * 0.6), { approach: 'jump' });
  }

  s.thread('#d8962b', 'Signal amber');
  s.satin(column(line('M0.6 -6C0.2 -12 0.6 -18 -0.4 -24.4'), 1.5));
  s.satin(column(line('M-0.4 -24.4L4.6 -25.4'), (t) => 1.6 - t));
  s.satin(column(line('M7.6 -6C8 -12 7.4 -18 8.2 -23'), 1.5));
  s.satin(column(line('M8.2 -23L13 -24'), (t) => 1.6 - t));

  s.thread('#9fb2ba', 'Heron gray');
  s.fill(area('M-9.5 10C-12 4 -10.5 -3 -5 -6.6C1 -10.4 10 -10 17.5 -8.6L27 -10.5L20.5 -4.6C16.5 1 9 3.4 3.4 6C-1 8 -3 11.6 -4.4 13.6Z'), {
    angle: 20,
  });

  s.thread('#4f6f86', 'Slate blue');
  s.fill(
    area(
      'M-6.4 4.8C-1 9.4 9 9.6 17 6.4C22.4 4.2 27.4 0.6 30.4 -4.8L24.6 -4.2L27 -8.4L20.4 -5.6L22 -9.6C14 -7.8 5.4 -6.6 0.4 -2.6C-2.4 -0.4 -5 2 -6.4 4.8Z',
    ),
    {
      angle: 128,
    },
  );
  s.thread('#d5dde0', 'Pale mist');
  s.satin(column(line('M0 3.4C7 6.6 15 5.4 22.6 0.4'), (t) => 0.9 + 0.7 * Math.sin(Math.PI * t)));
  s.satin(column(line('M3.6 0C9.4 2.4 16 1.2 21.4 -2.6'), (t) => 0.9 + 0.7 * Math.sin(Math.PI * t)));
  const neck = column(line('M-8.6 9.6C-15 15 -17 20.6 -12.6 24C-9.6 26.2 -8.6 27 -8.4 29.4'), (t) => 5.8 - 2.6 * t);
  s.satin(neck, { underlay: 'zigzag' });
  s.fill([ellipse(-7.4, 29.4, 4.4, 3, 12)], { angle: 30, underlay: 'tatami' });

  s.thread('#20262c', 'Night');
  s.satin(leaf(-8.4, 30.8, -18.6, 27.8, 1.7, -1.6));
  s.satin(dot(-5.6, 30, 0.9));

  s.thread('#d8962b', 'Signal amber');
  s.satin(column(line('M-3.4 29.2C3 29.6 10 27.8 15.6 25.4'), (t) => 3.2 * (1 - t) ** 0.85 + 0.35));

  s.thread('#c9a667', 'Brass');
  s.satin({ left: arc(0, 0, 43.6, 36.6, 90, 450), right: arc(0, 0, 41.2, 34.2, 90, 450) }, { underlay: 'edge' });
  const rim = resamplePath(arc(0, 0, 38.6, 31.7, 203, 337), 28);
  for (let k = 1; k < 27; k++) {
    const slope = Math.atan2(rim[k * 2 + 3]! - rim[k * 2 - 1]!, rim[k * 2 + 2]! - rim[k * 2 - 2]!);
    s.satin(dot(rim[k * 2]!, rim[k * 2 + 1]!, 1, (slope * 180) / Math.PI), { approach: 'trim', underlay: 'none' });
  }
  return s;
}

function wave(from: number, to: number, y: number): string {
  let data = `M${from} ${y}`;
  for (let x = from, up = 1; x < to; x += 6, up = -up) data += `q3 ${2.2 * up} 6 0`;
  return data;
}
