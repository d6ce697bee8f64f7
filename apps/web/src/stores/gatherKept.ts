import type { KeptFinding } from '@isola/core';

/** Places of findings that were kept at one time, for one reason. */
export interface KeptPlaces extends Pick<KeptFinding, 'title' | 'reason'> {
  readonly key: string;
  readonly places: readonly string[];
}

/** Kept places by what was said of them. */
export function gatherKept(kept: Readonly<Record<string, KeptFinding>>): KeptPlaces[] {
  const groups = new Map<string, KeptPlaces & { readonly places: string[] }>();
  for (const [place, { rule, title, reason }] of Object.entries(kept)) {
    const key = JSON.stringify([rule, title, reason]);
    const group = groups.get(key);
    if (group === undefined) groups.set(key, { key, title, reason, places: [place] });
    else group.places.push(place);
  }
  return [...groups.values()];
}
