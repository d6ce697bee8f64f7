import type { Column } from '@isola/core';

/** Five strokes of a closed figure: the sides of a pentagon `size` mm across, each a column `width` mm wide. */
export function starColumns(size: number, width: number): Column[] {
  // A regular pentagon is as wide as its diagonal: 2 r sin 72°.
  const radius = size / 2 / Math.sin((72 * Math.PI) / 180) - width / 2;
  const corner = (k: number): [number, number] => {
    const a = ((90 + 72 * k) * Math.PI) / 180;
    return [radius * Math.cos(a), radius * Math.sin(a)];
  };
  return Array.from({ length: 5 }, (_, k): Column => {
    const [ax, ay] = corner(k);
    const [bx, by] = corner(k + 1);
    const length = Math.hypot(bx - ax, by - ay);
    const [nx, ny] = [(-(by - ay) / length) * (width / 2), ((bx - ax) / length) * (width / 2)];
    return {
      left: Float64Array.of(ax + nx, ay + ny, bx + nx, by + ny),
      right: Float64Array.of(ax - nx, ay - ny, bx - nx, by - ny),
    };
  });
}
