const NAME = /^isola-(\d{4}-\d{2}-\d{2})T\d{6}\.dump$/;
/** So many days, weeks and months back one backup of each is kept. */
const KEPT = { days: 7, weeks: 5, months: 12 };
const DAY = 86_400_000;

/**
 * Of backups by their names those that need not be kept at a moment: all but the last of each of the last seven days, five weeks and twelve months.
 * Files that are called otherwise are left alone.
 */
export function chooseOld(names, now) {
  const dated = names.filter((name) => NAME.test(name)).sort();
  const today = Math.floor(now.getTime() / DAY);
  const months = now.getUTCFullYear() * 12 + now.getUTCMonth();
  /** The last backup of each period that is kept. */
  const last = new Map();
  for (const name of dated) {
    const date = new Date(`${NAME.exec(name)[1]}T00:00:00Z`);
    const day = Math.floor(date.getTime() / DAY);
    const month = date.getUTCFullYear() * 12 + date.getUTCMonth();
    // Weeks begin on Monday; day 0 was a Thursday.
    const week = (of) => Math.floor((of + 3) / 7);
    if (today - day < KEPT.days) last.set(`day ${day}`, name);
    if (week(today) - week(day) < KEPT.weeks) last.set(`week ${week(day)}`, name);
    if (months - month < KEPT.months) last.set(`month ${month}`, name);
  }
  const kept = new Set(last.values());
  return dated.filter((name) => !kept.has(name));
}
