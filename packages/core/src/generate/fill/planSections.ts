import { nearestSpan, type Section, type Spans } from './spans.ts';

/** A section with what is fixed about how it is sewn. */
export interface Job {
  readonly section: Section;
  /** The last section ends at its last span; sewn from the top when true. */
  readonly isTop?: boolean;
  readonly endsAt?: { readonly x: number; readonly y: number };
}

/** A way in or out farther from the shape than this (mm) is not walked. */
export const BEYOND = 3;
/** A section is parted for the way out where so many rows lie on either side. */
const LEAST_PART = 4;

/** The sections to sew, and which of them comes last: the one that holds the way out, parted there where that lies amid its rows. */
export function planSections(
  sections: readonly Section[],
  all: Spans,
  to: { readonly x: number; readonly y: number } | undefined,
): { jobs: Job[]; last: Job | undefined } {
  const jobs: Job[] = sections.map((section) => ({ section }));
  if (to === undefined) return { jobs, last: undefined };
  const { span, distance } = nearestSpan(all, to.x, to.y);
  if (distance > BEYOND) return { jobs, last: undefined };
  const k = sections.findIndex((s) => s.spans.includes(span));
  const { spans } = sections[k]!;
  const at = spans.indexOf(span);
  if (at < LEAST_PART || spans.length - at < LEAST_PART) {
    const last: Job = { section: { spans }, isTop: at < spans.length / 2, endsAt: to };
    jobs[k] = last;
    return { jobs, last };
  }
  const last: Job = { section: { spans: spans.slice(at) }, isTop: true, endsAt: to };
  jobs.splice(k, 1, { section: { spans: spans.slice(0, at) } }, last);
  return { jobs, last };
}
