import { type Figures, sayCount } from '@isola/core';

export { sayCount };

/** Seconds as minutes and seconds, from an hour on with hours: 9:42, 1:32:20. */
export function sayTime(seconds: number): string {
  const whole = Math.round(Math.abs(seconds));
  const h = Math.floor(whole / 3600);
  const m = Math.floor((whole % 3600) / 60);
  const s = String(whole % 60).padStart(2, '0');
  return h > 0 ? `${h}:${String(m).padStart(2, '0')}:${s}` : `${m}:${s}`;
}

/** A time of an order, in hours and minutes. */
export function sayHours(seconds: number): string {
  const minutes = Math.round(Math.abs(seconds) / 60);
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
}

/** A change with its sign: −0:24, +38; nothing changed gives ±0. */
export function saySigned(value: number, say: (value: number) => string): string {
  const text = say(Math.abs(value));
  if (text === say(0)) return '±0';
  return `${value < 0 ? '−' : '+'}${text}`;
}

/** What a repair saves or costs, in the unit that tells most: seconds where there are some, else stitches. */
export function sayPrice(cost: { readonly seconds: number; readonly stitches: number }): string {
  if (Math.abs(cost.seconds) >= 1) return saySigned(-cost.seconds, sayTime);
  if (cost.stitches !== 0) return `${saySigned(-cost.stitches, sayCount)} st`;
  return '';
}

/** What one piece comes to: 8 444 st, 26 trims, 14:22. */
export function sayPiece({ stitches, trims, run }: Figures): string {
  return `${sayCount(stitches)} st, ${trims === 1 ? '1 trim' : `${sayCount(trims)} trims`}, ${sayTime(run.seconds)}`;
}
