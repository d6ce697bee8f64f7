import type { SamplePlace } from '@isola/core';

/** A day as people say it: 2 Mar 2026. */
export function sayDay(day: string): string {
  return new Date(`${day}T12:00:00`).toLocaleDateString('en-GB', { dateStyle: 'medium' });
}

/** By how much a place was found off what was expected, mm; none where it was not measured. */
export function offBy({ measured, expected }: SamplePlace): number | undefined {
  return measured === null ? undefined : measured - expected;
}

/** Readings that are within this of what was expected (mm) are as exact as a rule. */
export const AS_EXPECTED = 0.2;

/** A length of cloth with its sign, mm. */
export const sayOff = (off: number): string => `${off < 0 ? '−' : '+'}${Math.abs(off).toFixed(2)}`;
