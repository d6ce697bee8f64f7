import type { SewOutRecord } from '@isola/contract';
import type { SewOut } from '@isola/core';
import { offBy, sayOff } from '../sewOuts/saySample.ts';

/** By the ids of what a sample was sewn on and with; empty: whatever. */
export type SampleFilter = Readonly<Record<'fabric' | 'thread' | 'garment' | 'machine', string>>;
export const NO_FILTER: SampleFilter = { fabric: '', thread: '', garment: '', machine: '' };

/** The samples that a filter and all words of a search fit, in their order. */
export function filterSamples(records: readonly SewOutRecord[], filter: SampleFilter, search: string): SewOutRecord[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return records.filter(({ jobName, sewOut }) => {
    const { fabric, thread, garment, machine, who, note } = sewOut;
    const isOf = (Object.keys(filter) as (keyof SampleFilter)[]).every((part) => filter[part] === '' || sewOut[part]?.id === filter[part]);
    const text = [jobName, who, note, fabric.name, thread.name, garment?.name ?? '', machine.name].join(' ').toLowerCase();
    return isOf && words.every((word) => text.includes(word));
  });
}

/** By how much the cloth of a sample moved more than was expected, on average, in words: widths that shrank and gaps that opened. A dash where none was measured. */
export function meanOff({ places }: SewOut): string {
  const offs = places.filter((place) => place.measured !== null).map((place) => offBy(place)! * (place.kind === 'width' ? -1 : 1));
  return offs.length === 0 ? '–' : sayOff(offs.reduce((sum, off) => sum + off, 0) / offs.length);
}
