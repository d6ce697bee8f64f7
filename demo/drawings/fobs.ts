import { Sewing } from '../Sewing.ts';
import { column, ellipse, line } from '../shapes.ts';

/** A hostel's felt key fobs, nine in a hoop and sewn fob by fob: four threads put on nine times over. */
export function drawFobs(): Sewing {
  const s = new Sewing();
  for (let row = 0; row < 3; row++)
    for (let k = 0; k < 3; k++) {
      const [x, y] = [(k - 1) * 40, (1 - row) * 50];
      s.thread('#f2c14e', 'Sunrise');
      s.fill([ellipse(x, y + 5, 8, 8)], { angle: 15, underlay: 'tatami', approach: 'trim' });
      s.thread('#2e6f95', 'Tide');
      for (const down of [4, 8.5])
        s.satin(
          column(
            line(
              `M${x - 11} ${y - down}C${x - 6} ${y - (down - 4)} ${x - 5} ${y - (down + 3)} ${x} ${y - down}C${x + 5} ${y - (down - 4)} ${x + 6} ${y - (down + 3)} ${x + 11} ${y - down}`,
            ),
            2.2,
          ),
          { approach: 'trim' },
        );
      s.thread('#7d3c2a', 'Keel');
      s.satin(column(line(`M${x - 7} ${y + 1.5}C${x - 4} ${y - 1.5} ${x + 4} ${y - 1.5} ${x + 7} ${y + 1.5}`), 2.6), {
        approach: 'trim',
      });
      s.thread('#27333a', 'Slate');
      s.satin(column(tag(x, y), 3), { spacing: 0.4, underlay: 'zigzag', approach: 'trim' });
      s.satin(column(Float64Array.from([...ellipse(x, y + 17, 3.4, 3.4), x + 3.4, y + 17]), 1.8), { approach: 'trim' });
    }
  return s;
}

/** The edge of a fob, closed: straight sides, round at the top and at the foot. */
function tag(x: number, y: number): Float64Array {
  return line(
    `M${x} ${y + 22.5}C${x + 9} ${y + 22.5} ${x + 15} ${y + 16} ${x + 15} ${y + 8}L${x + 15} ${y - 10}C${x + 15} ${y - 16} ${x + 9} ${y - 19.5} ${x} ${y - 19.5}C${x - 9} ${y - 19.5} ${x - 15} ${y - 16} ${x - 15} ${y - 10}L${x - 15} ${y + 8}C${x - 15} ${y + 16} ${x - 9} ${y + 22.5} ${x} ${y + 22.5}Z`,
  );
}
