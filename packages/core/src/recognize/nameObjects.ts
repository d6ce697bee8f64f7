import type { Extents } from '../measure/counts.ts';

/** Where in a design something lies, as people say it: thirds across and up, "middle" for both middles. */
export function sayPlace(x: number, y: number, { minX, minY, width, height }: Extents): string {
  const third = (value: number, from: number, size: number): number =>
    size > 0 ? Math.min(2, Math.floor(((value - from) / size) * 3)) : 1;
  const across = ['left', '', 'right'][third(x, minX, width)]!;
  const up = ['lower', '', 'upper'][third(y, minY, height)]!;
  if (across === '' && up === '') return 'middle';
  if (up === '') return across;
  return across === '' ? up : `${up} ${across}`;
}

/** Names made different where they are the same: the second and later ones carry a number. */
export function numberNames(names: readonly string[]): string[] {
  const seen = new Map<string, number>();
  const total = new Map<string, number>();
  for (const name of names) total.set(name, (total.get(name) ?? 0) + 1);
  return names.map((name) => {
    if (total.get(name) === 1) return name;
    const n = (seen.get(name) ?? 0) + 1;
    seen.set(name, n);
    return `${name} (${n})`;
  });
}
