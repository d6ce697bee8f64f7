import { type Figures, SEVERITIES, type Target } from '@isola/core';
import type { JudgedSide } from '../../workers/compareProtocol.ts';
import { sayCount, sayHours, sayTime } from '../../bench/figures/sayFigures.ts';

/** A line of the table of figures; `change` is empty where nothing changed. */
export interface FigureRow {
  readonly name: string;
  readonly before: string;
  readonly now: string;
  readonly change: string;
  readonly mark: 'gain' | 'loss' | '';
}

const metres = (value: number): string => `${value.toFixed(1)} m`;

/** The figures of two states of one design side by side, for one piece. Less is a gain in all of them. */
export function compareFigures(before: Figures, now: Figures): FigureRow[] {
  return [
    row('Machine time', before.run.seconds, now.run.seconds, sayTime),
    row('lost to trims', before.run.trims, now.run.trims, sayTime),
    row('lost to colors', before.run.colorChanges, now.run.colorChanges, sayTime),
    row('lost to moves', before.run.jumps, now.run.jumps, sayTime),
    row('Stitches', before.stitches, now.stitches, sayCount),
    row('Trims', before.trims, now.trims, sayCount),
    row('Jumps', before.jumps, now.jumps, sayCount),
    row('Color changes', before.colorChanges, now.colorChanges, sayCount),
    row('Stops', before.stops, now.stops, sayCount),
    row('Equal to, stitches', before.run.equivalentStitches, now.run.equivalentStitches, sayCount),
    row('Upper thread', before.threadM, now.threadM, metres, 0.1),
    row('Bobbin', before.bobbinM, now.bobbinM, metres, 0.1),
    row('Longest stitch', before.longestStitch, now.longestStitch, (v) => `${v.toFixed(1)} mm`, 0.1),
  ];
}

/** What takes longer to know: densest spots, and where objects are known of both, gaps and findings. */
export function compareJudged(before: JudgedSide, now: JudgedSide): FigureRow[] {
  const rows = [row('Densest spot, closed layers (K)', before.maxCover, now.maxCover, (v) => v.toFixed(1), 0.1)];
  const [a, b] = [before.widestGap, now.widestGap];
  if (a !== undefined && b !== undefined)
    rows.push(row('Widest gap, estimated', a, b, (v) => (v === 0 ? 'none' : `${v.toFixed(2)} mm`), 0.01));
  const [c, d] = [before.findings, now.findings];
  if (c === undefined || d === undefined) return rows;
  const WORDS = { stop: 'Findings left: stop', fix: 'fix', note: 'note' };
  return [...rows, ...SEVERITIES.map((severity) => row(WORDS[severity], c[severity], d[severity], sayCount))];
}

/** Upper thread of each color for one piece, m: as they are put on, those that only one of them has, too. */
export function compareThreads(before: Figures, now: Figures): FigureRow[] {
  const nameOf = ({ name, color }: Figures['colors'][number]): string => name || color;
  const sum = (f: Figures, name: string): number => f.colors.filter((c) => nameOf(c) === name).reduce((m, c) => m + c.threadM, 0);
  const names = new Set([...now.colors, ...before.colors].map(nameOf));
  return [...names].map((name) => row(name, sum(before, name), sum(now, name), metres, 0.1));
}

/** What the change comes to on the whole order. */
export function compareOrder(before: Figures, now: Figures, target: Target): FigureRow[] {
  const n = target.quantity;
  const cones = (f: Figures): number => f.colors.reduce((sum, c) => sum + c.cones, 0);
  return [
    row('Machine time', before.run.seconds * n, now.run.seconds * n, sayHours, 60),
    row('Trims', before.trims * n, now.trims * n, sayCount),
    row('Upper thread', (before.threadM * n) / 1000, (now.threadM * n) / 1000, (v) => `${v.toFixed(2)} km`, 0.01),
    row('Cones', cones(before), cones(now), (v) => v.toFixed(1), 0.1),
  ];
}

/** `step`: what the figures are rounded to where they are said, so that the change is the difference of what stands beside it. */
function row(name: string, before: number, now: number, say: (value: number) => string, step = 1): FigureRow {
  const change = Math.round(now / step) - Math.round(before / step);
  const more = say(Math.abs(change) * step);
  return {
    ...{ name, before: say(before), now: say(now), change: change === 0 ? '' : `${more} ${change < 0 ? 'less' : 'more'}` },
    mark: change === 0 ? '' : change < 0 ? 'gain' : 'loss',
  };
}
