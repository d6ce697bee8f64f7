const DAY = 86_400_000;
/** From this many days on a date is written out. */
const FAR = 7;
/** A job due within this many days is pointed out. */
const SOON = 2;

/** When a job is due (YYYY-MM-DD, by the local calendar), as people say it, and whether that is soon or past. */
export function sayDue(due: string | null, now: Date): { text: string; isSoon: boolean } {
  if (due === null) return { text: 'no date', isSoon: false };
  const date = new Date(`${due}T00:00:00`);
  const today = new Date(now.getFullYear(), now.getMonth(), now.getDate());
  const days = Math.round((date.getTime() - today.getTime()) / DAY);
  const isSoon = days <= SOON;
  if (days < -1) return { text: `${-days} days late`, isSoon };
  if (days === -1) return { text: 'due yesterday', isSoon };
  if (days === 0) return { text: 'due today', isSoon };
  if (days === 1) return { text: 'due tomorrow', isSoon };
  if (days < FAR) return { text: `due ${date.toLocaleDateString('en-GB', { weekday: 'long' })}`, isSoon };
  return { text: `due ${date.toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })}`, isSoon };
}

/** The day of a moment, as people say it. */
export const sayDay = (at: string): string => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' });
