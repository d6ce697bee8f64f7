import type { BoardOutcome } from '@isola/core';
import { sayCount, sayHours } from '../../bench/figures/sayFigures.ts';

/** A moment of the week: Wed 2 Dec, 14:20. */
export const sayMoment = (at: Date): string =>
  new Date(Math.round(at.getTime() / 60_000) * 60_000).toLocaleString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });

export const sayPieces = (quantity: number): string => (quantity === 1 ? '1 piece' : `${sayCount(quantity)} pieces`);

export const sayMinutes = (minutes: number): string => sayHours(minutes * 60);

/** What is late on a plan, in words. */
export function sayLate({ late, lateJobs }: Pick<BoardOutcome, 'late' | 'lateJobs'>): string {
  if (lateJobs === 0) return 'nothing late';
  return `${lateJobs === 1 ? '1 order' : `${lateJobs} orders`} late, ${sayMinutes(late)} in all`;
}

/** How a plan stands against another one, by what becomes late that was not, and what is late no more. */
export function sayDifference(names: ReadonlyMap<string, string>, was: BoardOutcome, is: BoardOutcome): string {
  const later = [...is.times].filter(([id, { late }]) => late > (was.times.get(id)?.late ?? 0) + 1);
  const sooner = [...was.times].filter(([id, { late }]) => late > (is.times.get(id)?.late ?? 0) + 1);
  const name = (id: string): string => names.get(id) ?? 'an order';
  const said = [
    ...later.slice(0, 2).map(([id, { late }]) => `${name(id)} ${sayMinutes(late)} late`),
    ...(later.length > 2 ? [`${later.length - 2} more later`] : []),
    ...sooner.slice(0, 2).map(([id]) => `${name(id)} ${is.times.get(id)?.late ? 'less late' : 'in time'}`),
  ];
  return said.length === 0 ? 'no order later than before' : said.join('; ');
}
