import { Sewing } from '../Sewing.ts';
import { area, column, leaf, line } from '../shapes.ts';

/** A nursery's three applique pears for tote panels, sewn pear by pear: placement, stop, tack-down, stop, cover, and the next one from the start. */
export function drawPears(): Sewing {
  const s = new Sewing();
  for (const [x, y, turn, color, name] of [
    [-48, -4, 8, '#b9a53a', 'Ripe pear'],
    [0, 6, -5, '#8fa13c', 'Green pear'],
    [49, -6, -12, '#c07f3a', 'Russet pear'],
  ] as const) {
    const at = placer(x, y, turn);
    const edge = closed(area(at(PEAR))[0]!);
    s.thread('#5b4a3a', 'Bark');
    s.run(edge, 1, 2.5, { approach: 'trim' });
    s.stop('Lay the pear fabric');
    s.satin(column(edge, 1.8), { spacing: 2, pull: 0, underlay: 'none', approach: 'trim' });
    s.stop('Stop the machine and cut the fabric at the tack-down');
    s.thread(color, name);
    s.satin(column(edge, 3.2), { spacing: 0.4, underlay: 'zigzag', approach: 'trim' });
    s.thread('#5b4a3a', 'Bark');
    s.satin(column(line(at('M1 -27C2 -33 4 -37 7 -40')), 2.2), { approach: 'trim' });
    s.thread('#5d7a42', 'Leaf');
    const [x0, y0, x1, y1] = line(at('M3 -33L20 -41')) as unknown as [number, number, number, number];
    s.satin(leaf(x0, y0, x1, y1, 6.4, 1.5), { underlay: 'edge', approach: 'trim' });
  }
  return s;
}

/** A pear about its own middle, y down as path data has it. */
const PEAR = 'M1 -27C7 -27 9 -21 9 -15C9 -8 20 -4 20 9C20 21 11 27 1 27C-10 27 -18 20 -18 9C-18 -3 -8 -8 -7 -15C-6 -21 -4 -27 1 -27Z';

/** Moves path data of absolute moves, lines and curves by x, y (now y up) and turns it by so many degrees. */
function placer(x: number, y: number, turn: number): (data: string) => string {
  const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  return (data) =>
    data.replaceAll(/(-?[\d.]+) (-?[\d.]+)/g, (_, px: string, py: string) => {
      const [qx, qy] = [Number(px), -Number(py)];
      return `${(qx * c - qy * s + x).toFixed(3)} ${(qx * s + qy * c + y).toFixed(3)}`;
    });
}

function closed(ring: Float64Array): Float64Array {
  return Float64Array.from([...ring, ring[0]!, ring[1]!]);
}
