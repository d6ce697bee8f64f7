import { differenceCiede2000, parse } from 'culori';

/** A color in CIE L*a*b* under D65. */
export interface Lab {
  readonly l: number;
  readonly a: number;
  readonly b: number;
}

const difference = differenceCiede2000();

/** How different two colors look: CIEDE2000 (CIE 142-2001). 1 is just seen side by side, 0 is the same. */
export function differenceOfLab(first: Lab, second: Lab): number {
  return difference({ mode: 'lab65', ...first }, { mode: 'lab65', ...second });
}

/** CIEDE2000 of two colors given as #rrggbb. @throws when one is no color. */
export function colorDifference(first: string, second: string): number {
  const [a, b] = [parse(first), parse(second)];
  if (a === undefined || b === undefined) throw new RangeError(`colors as #rrggbb expected, got ${first} and ${second}`);
  return difference(a, b);
}
