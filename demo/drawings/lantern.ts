import { Sewing } from '../Sewing.ts';
import { arc, area, column, dot, leaf, line } from '../shapes.ts';

/**
 * A school's lantern for fleece blankets: rays and stars in stitches so small that the pile swallows them, and the glow laid as a full fill
 * under a full fill.
 */
export function drawLantern(): Sewing {
  const s = new Sewing();

  s.thread('#f4d27a', 'Glow');
  s.fill([arc(0, 2, 30, 30, 0, 360).subarray(2)], { angle: 0, underlay: 'tatami' });
  for (let k = 0; k < 16; k++) {
    const a = (k * Math.PI) / 8;
    const from = k % 2 === 0 ? 34 : 33;
    const to = k % 2 === 0 ? 45 : 40;
    s.satin(leaf(from * Math.cos(a), 2 + from * Math.sin(a), to * Math.cos(a), 2 + to * Math.sin(a), 2.6), { spacing: 0.4 });
    grains(s, (to + 2.5) * Math.cos(a), 2 + (to + 2.5) * Math.sin(a));
  }
  s.thread('#f09a36', 'Candle');
  s.fill(area('M-11.6 -13L-9.4 15L9.4 15L11.6 -13Z'), { angle: 60 });
  s.thread('#fff3c9', 'Wick light');
  s.satin(leaf(0, -8, 0.6, 9.4, 6.4, 1), { underlay: 'edge' });
  s.thread('#c4482c', 'Flame heart');
  s.satin(leaf(0, -7.4, 0.2, 1.6, 2.6, 0.4));

  s.thread('#2a3440', 'Iron');
  s.fill(area('M-15 -13L15 -13L17.4 -21.4C17.6 -22.6 17 -23.4 15.8 -23.4L-15.8 -23.4C-17 -23.4 -17.6 -22.6 -17.4 -21.4Z'), { angle: 90 });
  s.fill(area('M-13.4 15L13.4 15L5.6 24.4L-5.6 24.4Z'), { angle: 90 });
  s.satin(column(line('M-10.6 15.4L-12.8 -13.4'), 2));
  s.satin(column(line('M10.6 15.4L12.8 -13.4'), 2));
  s.satin(column(line('M-11.7 1L11.7 1'), 1.6));
  s.satin({ left: arc(0, 29.6, 6, 6, -60, 240), right: arc(0, 29.6, 4.2, 4.2, -60, 240) });
  s.thread('#8fa6b8', 'Moon steel');
  s.satin(column(line('M-12.4 -18.2L12.4 -18.2'), 2.2));
  s.satin(dot(0, 19.4, 1.4));
  return s;
}

/** A scatter of grains: a creep of strokes, each too short for a needle. */
function grains(s: Sewing, x: number, y: number): void {
  const points: number[] = [];
  for (let k = 0; k < 12; k++) points.push(x + 0.05 * k + 0.1 * Math.cos(k * 2.1), y + 0.1 * Math.sin(k * 2.6));
  s.part(Float64Array.from(points), { isLocked: false, isRaw: true });
}
