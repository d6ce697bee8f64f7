import { sayTime } from '../figures/sayFigures.ts';

/**
 * What a trial would change, or what changed since the file came in, by the times that are said (seconds now, and of the other strip); and whether it is
 * a gain.
 */
export function sayChange(now: number, other: number, isTrial: boolean): { readonly text: string; readonly mark: 'gain' | 'loss' | '' } {
  const by = Math.round(other) - Math.round(now);
  if (by === 0) return { text: 'no change', mark: '' };
  const isGain = isTrial ? by < 0 : by > 0;
  const words = isTrial ? { gain: 'less', loss: 'more' } : { gain: 'saved since', loss: 'added since' };
  return { text: `${sayTime(by)} ${isGain ? words.gain : words.loss}`, mark: isGain ? 'gain' : 'loss' };
}
