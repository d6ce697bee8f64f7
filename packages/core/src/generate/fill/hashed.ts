/** A number from 0 to below 1 that looks like chance but belongs to its index (an integer hash: C. Wellons, 2018, public domain). */
export function hashed(index: number): number {
  let h = index | 0;
  h = Math.imul(h ^ (h >>> 16), 0x21f0aaad);
  h = Math.imul(h ^ (h >>> 15), 0x735a2d97);
  return ((h ^ (h >>> 15)) >>> 0) / 4294967296;
}
