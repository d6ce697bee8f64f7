import type { ShopHours } from '@isola/core';

/** No order is looked at farther ahead than this, days. */
const FARTHEST = 3660;

const minutesOf = (clock: string): number => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));
const dayAfter = (day: Date, days: number): Date => new Date(day.getFullYear(), day.getMonth(), day.getDate() + days);
const at = (day: Date, clock: string): Date =>
  new Date(day.getFullYear(), day.getMonth(), day.getDate(), Math.floor(minutesOf(clock) / 60), minutesOf(clock) % 60);

/** Working minutes of a day: all of it, or what is left of it after a moment. */
function openOn(day: Date, hours: ShopHours, after?: Date): { readonly from: number; readonly to: number } | undefined {
  if (!hours.days.includes(day.getDay())) return undefined;
  const from = Math.max(at(day, hours.from).getTime(), after?.getTime() ?? -Infinity);
  const to = at(day, hours.to).getTime();
  return from < to ? { from, to } : undefined;
}

/** Working minutes from one moment to another; 0 where the other is not later. In the time zone of this machine. */
export function workingMinutes(from: Date, to: Date, hours: ShopHours): number {
  let minutes = 0;
  for (let k = 0; k < FARTHEST; k++) {
    const day = dayAfter(from, k);
    if (day >= to) break;
    const open = openOn(day, hours, k === 0 ? from : undefined);
    if (open !== undefined) minutes += Math.max(0, Math.min(open.to, to.getTime()) - open.from) / 60_000;
  }
  return minutes;
}

/** The moment at which so many working minutes after another one are over. */
export function afterWorking(from: Date, minutes: number, hours: ShopHours): Date {
  let left = minutes * 60_000;
  for (let k = 0; k < FARTHEST; k++) {
    const open = openOn(dayAfter(from, k), hours, k === 0 ? from : undefined);
    if (open === undefined) continue;
    if (left <= open.to - open.from) return new Date(open.from + left);
    left -= open.to - open.from;
  }
  return dayAfter(from, FARTHEST);
}

/** When the working day of a due date (YYYY-MM-DD) is over. */
export function endOfDay(date: string, hours: ShopHours): Date {
  const [year, month, day] = date.split('-').map(Number) as [number, number, number];
  return at(new Date(year, month - 1, day), hours.to);
}
