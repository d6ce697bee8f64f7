import { Sewing } from '../Sewing.ts';
import { arc, area, column, dot, ellipse, line } from '../shapes.ts';

/** One tooth: share of its pitch, and radius there (mm). */
const TOOTH = [
  [0, 86.6],
  [0.2, 87.4],
  [0.38, 92.6],
  [0.5, 93.4],
  [0.62, 92.6],
  [0.8, 87.4],
] as const;

/**
 * A cycle works' chainring for softshell backs, 188 mm across: a full fill under full fills, all far too dense, as an automatic conversion
 * makes it.
 */
export function drawChainring(): Sewing {
  const s = new Sewing();
  const teeth = 36;

  s.thread('#c2452d', 'Signal red');
  s.fill([ellipse(0, 0, 70, 70), ellipse(0, 0, 47, 47)], { angle: 30, spacing: 0.27 });

  s.thread('#aab2b5', 'Brushed alloy');
  s.fill([ellipse(0, 0, 85.6, 85.6), ellipse(0, 0, 66, 66)], { angle: 60, spacing: 0.24 });
  const profile: number[] = [];
  for (let k = 0; k < teeth; k++) {
    const pitch = (2 * Math.PI) / teeth;
    for (const [share, radius] of TOOTH) profile.push(radius * Math.cos((k + share) * pitch), radius * Math.sin((k + share) * pitch));
  }
  profile.push(profile[0]!, profile[1]!);
  s.satin({ left: Float64Array.from(profile), right: arc(0, 0, 84, 84, 0, 360) }, { spacing: 0.26, underlay: 'edge', splitLength: 99 });

  s.thread('#6c767b', 'Shadow alloy');
  for (let k = 0; k < 5; k++) {
    const turn = 90 + 72 * k;
    s.fill(area(turned('M24 -9.4C36 -6.4 48 -6 58 -9.6L73 -7.2L73 7.2L58 9.6C48 6 36 6.4 24 9.4Z', turn)), {
      angle: turn + 45,
      spacing: 0.25,
    });
  }
  s.fill([ellipse(0, 0, 31, 31), ellipse(0, 0, 13, 13)], { angle: 120, spacing: 0.25 });

  s.thread('#23282c', 'Crank black');
  s.satin({ left: arc(0, 0, 34.6, 34.6, 0, 360), right: arc(0, 0, 30.4, 30.4, 0, 360) }, { spacing: 0.25, underlay: 'edge' });
  s.satin({ left: arc(0, 0, 14.6, 14.6, 0, 360), right: arc(0, 0, 11.8, 11.8, 0, 360) }, { spacing: 0.25, underlay: 'edge' });
  for (let k = 0; k < 5; k++) {
    const a = ((90 + 72 * k) * Math.PI) / 180;
    s.satin(dot(63 * Math.cos(a), 63 * Math.sin(a), 4.4), { spacing: 0.24, underlay: 'edge', splitLength: 99 });
  }

  s.thread('#f0ece2', 'Chalk');
  for (let k = 0; k < 5; k++) {
    const a = ((90 + 72 * k) * Math.PI) / 180;
    s.satin(dot(63 * Math.cos(a), 63 * Math.sin(a), 1.7), { spacing: 0.3 });
  }
  for (let k = 0; k < 10; k++) {
    const from = 36 * k + 4;
    s.satin({ left: arc(0, 0, 81.2, 81.2, from, from + 28), right: arc(0, 0, 79.2, 79.2, from, from + 28) }, { spacing: 0.3 });
  }
  for (let k = 0; k < 8; k++) {
    const a = (k * Math.PI) / 4;
    s.satin(column(line(`M${3 * Math.cos(a)} ${3 * Math.sin(a)}L${10 * Math.cos(a)} ${10 * Math.sin(a)}`), 1.8), { spacing: 0.3 });
  }
  return s;
}

function turned(data: string, degrees: number): string {
  const c = Math.cos((degrees * Math.PI) / 180);
  const n = Math.sin((degrees * Math.PI) / 180);
  return data.replace(
    /(-?[\d.]+) (-?[\d.]+)/g,
    (_, x: string, y: string) => `${(Number(x) * c - Number(y) * n).toFixed(3)} ${(Number(x) * n + Number(y) * c).toFixed(3)}`,
  );
}
