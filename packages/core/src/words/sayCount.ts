/** A count as people read it, wherever it is said: its thousands set apart by a narrow space. */
export function sayCount(count: number): string {
  return Math.round(count).toLocaleString('en').replaceAll(',', '\u202f');
}
