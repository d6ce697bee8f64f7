/** Shifts of a fill's rows that show as a texture, each in shares of a stitch, over and over. */
export interface Texture {
  readonly id: string;
  readonly name: string;
  readonly shifts: readonly number[];
}

const thousandth = (v: number): number => Math.round(v * 1000) / 1000;
const inRows = (count: number, shift: (share: number) => number): number[] =>
  Array.from({ length: count }, (_, k) => thousandth(shift(k / count)));

/** Textures that can be chosen; a spec holds the shifts themselves, so that a shop can have others. */
export const TEXTURES: readonly Texture[] = [
  { id: 'brick', name: 'brick', shifts: [0, 0.5] },
  { id: 'twill', name: 'twill', shifts: [0, 0.25, 0.5, 0.75] },
  { id: 'chevron', name: 'chevron', shifts: inRows(20, (s) => Math.abs(1 - 2 * s) * 0.999) },
  { id: 'wave', name: 'wave', shifts: inRows(24, (s) => 0.3 + 0.3 * Math.sin(2 * Math.PI * s)) },
  { id: 'tiles', name: 'tiles', shifts: inRows(16, (s) => (s < 0.5 ? 0 : 0.5)) },
  { id: 'ripple', name: 'ripple', shifts: inRows(30, (s) => 0.5 + 0.18 * Math.sin(2 * Math.PI * s) + 0.16 * Math.sin(6 * Math.PI * s)) },
];

/** The texture with those shifts; none where they are the shop's own. */
export function textureOf(shifts: readonly number[]): Texture | undefined {
  return TEXTURES.find((texture) => texture.shifts.length === shifts.length && texture.shifts.every((v, k) => v === shifts[k]));
}
