import { calmRings } from '../../generate/underlay.ts';
import type { Program } from '../../model/program.ts';
import { wayOf } from './areas.ts';
import type { Piece } from '../rows/piece.ts';
import { distanceToRings, perimeterOf, ringsOf } from '../rows/ringed.ts';
import { median } from '../../geometry/statistics.ts';

/** An edge run lies inside its cover's edge by no more than this, mm. */
const DEEPEST_EDGE = 1.9;
/** What belongs to it keeps to the way that it would take within this (mm), with this share of its penetrations. */
const EVEN_INSET = 0.4;
const MOSTLY = 0.6;
/** All of it together goes along so much of that way. */
const LEAST_FOLLOWED = 0.55;
/** Tatami of no more rows than this may be a narrow ring. */
const MOST_ROWS = 8;

/**
 * Tells an edge run that was sewn in parts: where a fill narrows, its edge run comes apart into rings, none of which follows much of the edge by
 * itself. Runs under a fill that together go along most of the way that an edge run would take there are one.
 */
export function tellEdgeRuns(program: Program, pieces: readonly Piece[]): Piece[] {
  const under = new Map<Piece, Piece[]>();
  for (const piece of pieces) {
    const { parent, role, underlayKind, measured } = piece;
    if (parent?.measured.kind !== 'fill' || measured.kind !== 'run' || piece.last >= parent.first) continue;
    if (role !== 'travel' && underlayKind !== 'edge-run') continue;
    const runs = under.get(parent);
    if (runs === undefined) under.set(parent, [piece]);
    else runs.push(piece);
  }
  const told = new Set<Piece>();
  // The walks between rows of tatami go along the edge, too: what was sewn before them is no such walk.
  for (const { parent, underlayKind, rows, first } of pieces)
    if (underlayKind === 'tatami' && parent !== undefined && (rows?.count ?? 0) > MOST_ROWS)
      under.set(parent, under.get(parent)?.filter(({ last }) => last < first) ?? []);
  for (const [cover, runs] of under) {
    if (runs.every(({ role }) => role === 'underlay')) continue;
    for (const run of edgeRunOf(program, cover, runs)) told.add(run);
  }
  return pieces.map((piece) => (told.has(piece) ? { ...piece, role: 'underlay', underlayKind: 'edge-run' } : piece));
}

/** Those of the runs under a fill that are its edge run; none where they are too little of one. */
function edgeRunOf({ x, y }: Program, cover: Piece, runs: readonly Piece[]): readonly Piece[] {
  const edge = ringsOf(cover.measured);
  const insets: number[] = [];
  for (const { first, last } of runs) for (let i = first; i <= last; i++) insets.push(distanceToRings(edge, x[i]!, y[i]!));
  const near = insets.filter((d) => d < DEEPEST_EDGE);
  if (near.length === 0) return [];
  const way = calmRings(edge, median(near));
  const along = runs.filter(({ first, last }) => {
    let on = 0;
    for (let i = first; i <= last; i++) if (distanceToRings(way, x[i]!, y[i]!) < EVEN_INSET) on++;
    return on >= MOSTLY * (last - first + 1);
  });
  return along.reduce((sum, run) => sum + wayOf(run), 0) >= LEAST_FOLLOWED * perimeterOf(way) ? along : [];
}
