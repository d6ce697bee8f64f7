/** Of a width, the share that is left at least, however much the cloth draws in. */
const LEAST_SHARE = 0.1;

/**
 * What is expected between two points that were drawn some way apart, mm, on cloth that pulls so much at each edge (mm): the distance designed and
 * what the pull makes of it. A width keeps a tenth of itself; a gap may close.
 */
export function expectedAt(
  { kind, designed, perPull }: { readonly kind: 'width' | 'gap'; readonly designed: number; readonly perPull: number },
  pull: number,
): number {
  const drawn = designed + perPull * pull;
  return kind === 'width' ? Math.max(LEAST_SHARE * designed, drawn) : drawn;
}
