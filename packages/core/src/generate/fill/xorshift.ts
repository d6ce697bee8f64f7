/** Chance from a seed, the same on every machine (G. Marsaglia, Xorshift RNGs, 2003). */
export function xorshift(seed: number): () => number {
  let s = (seed * 2654435761) >>> 0 || 1;
  return () => {
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    return (s >>> 0) / 4294967296;
  };
}
