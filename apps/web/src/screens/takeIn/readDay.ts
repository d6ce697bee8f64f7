const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/**
 * A day as people write it (6 December, 6 Dec 2026, 6.12.2026, 2026-12-06), as YYYY-MM-DD; nothing where it is none. Without a year the next such
 * day from `today` on is meant; the day stands before the month.
 */
export function readDay(text: string, today: Date): string | undefined {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text.trim());
  if (iso !== null) return dayOf(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const written = /^(\d{1,2})[ .]+(\d{1,2}|[a-z]{3,9})[ .]*(\d{4})?$/i.exec(text.trim());
  if (written === null) return undefined;
  const named = MONTHS.indexOf(written[2]!.slice(0, 3).toLowerCase()) + 1;
  const month = named > 0 ? named : Number(written[2]);
  if (written[3] !== undefined) return dayOf(Number(written[3]), month, Number(written[1]));
  const year = today.getFullYear();
  const isPast = month < today.getMonth() + 1 || (month === today.getMonth() + 1 && Number(written[1]) < today.getDate());
  return dayOf(isPast ? year + 1 : year, month, Number(written[1]));
}

function dayOf(year: number, month: number, day: number): string | undefined {
  const date = new Date(Date.UTC(year, month - 1, day));
  return date.getUTCMonth() === month - 1 && date.getUTCDate() === day ? date.toISOString().slice(0, 10) : undefined;
}
