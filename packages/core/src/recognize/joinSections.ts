import { type Program, STITCH } from '../model/program.ts';
import { containsPoint } from '../geometry/ring.ts';
import { layLengths } from '../model/stretches.ts';
import { makePiece, measureRows, OPENEST } from './cutPieces.ts';
import { findLattice, latticeRows } from './lattice.ts';
import type { Measured, Piece } from './piece.ts';
import { distanceToRings, ringsOf } from './ringed.ts';
import { isSameAxis, joinRowSets, type RowSet } from './rows.ts';

/** What a fill starts to be put together from has this many rows at least, running this much one way. */
const SEED_ROWS = 8;
const ONE_WAY = 0.97;
/** Sections lie no farther apart than this (mm) and this share of the pitch besides. */
const TOUCHING = 0.7;
const TOUCHING_PITCH = 0.6;
/** Where the thread is cut between them, so much nearer: a cut more often parts two shapes than two sections. */
const CUT_APART = 0.35;
/** How much the figures of two sections of one fill may differ: degrees, and a share. Narrow ones have no stitch length to compare. */
const SAME_ANGLE = 5;
const SAME_PITCH = 0.15;
/** Sections of fewer rows than this are measured less surely, and may differ by so many times as much. */
const FEW_ROWS = 12;
const FEW_SLACK = 2.5;
const IN_LATTICE = 3;
/** What is at least so even and so surely told, and sewn closer than this (mm), is an object of its own between two sections. */
const OWN_EVENNESS = 0.9;
const OWN_CONFIDENCE = 0.85;
const OWN_SPACING = 1.2;
/** What lies between sections is no longer than this (mm), or than this share of what they are. */
const BETWEEN = 150;
const BETWEEN_SHARE = 0.35;
/** Travel between sections stays in the fill, or as near to it as this (mm), for this share of its penetrations. */
const INSIDE = 0.7;
const BESIDE = 1.2;
/** What carries over from one shape to the next takes fewer stitches than this; travel inside a shape takes more. */
const LEAST_WALK = 4;

/** A piece as a section of a fill, whatever it was taken for by itself. */
interface Section {
  readonly index: number;
  readonly rows: RowSet;
  readonly fill: FillMeasured;
  readonly rings: readonly Float64Array[];
  readonly box: readonly [minX: number, minY: number, maxX: number, maxY: number];
}

type FillMeasured = Extract<Measured, { kind: 'fill' }>;

/**
 * Puts sections of one fill together with the travel between them: from each surely known fill, longest first, on and back in the sewing order
 * over pieces of its thread that lie in its rows and hang together with it. Sections may touch only through others that are sewn later.
 * O(pieces × their outlines).
 */
export function joinSections(program: Program, pieces: readonly Piece[]): Piece[] {
  const lay = layLengths(program);
  const length = pieces.map((piece) => {
    let sum = 0;
    for (let i = piece.first; i <= piece.last; i++) sum += lay[i]!;
    return sum;
  });
  const seeds = pieces.flatMap((piece, k) => (isSeed(piece) ? [k] : [])).sort((a, b) => length[b]! - length[a]! || a - b);
  const joinedAt = new Map<number, { readonly to: number; readonly piece: Piece }>();
  const isTaken = new Uint8Array(pieces.length);
  for (const seed of seeds) {
    if (isTaken[seed]) continue;
    const sections = hangingTogether(program, pieces, growFrom(program, pieces, length, isTaken, seed), seed);
    if (sections.length < 2) continue;
    const [from, to] = [sections[0]!.index, sections[sections.length - 1]!.index];
    const piece = joinChain(program, pieces, sections);
    // Straights of a line may seem to be rows one by one; together they tell.
    if ('spacing' in piece.measured && piece.measured.spacing > OPENEST) continue;
    isTaken.fill(1, from, to + 1);
    joinedAt.set(from, { to, piece });
  }
  const out: Piece[] = [];
  for (let k = 0; k < pieces.length; k++) {
    const joined = joinedAt.get(k);
    out.push(joined?.piece ?? pieces[k]!);
    k = joined?.to ?? k;
  }
  return out;
}

function isSeed({ rows, measured }: Piece): boolean {
  return rows !== undefined && measured.kind === 'fill' && rows.count >= SEED_ROWS && rows.evenness >= ONE_WAY;
}

/** The pieces before and after a seed that could be its sections by their figures, in sewing order. */
function growFrom(
  program: Program,
  pieces: readonly Piece[],
  length: readonly number[],
  isTaken: Uint8Array,
  seed: number,
): readonly Section[] {
  const own = asSection(program, pieces[seed]!, seed, undefined)!;
  const walk = (step: 1 | -1): Section[] => {
    const found: Section[] = [];
    let fitting = length[seed]!;
    let between = 0;
    for (let n = seed + step; n >= 0 && n < pieces.length; n += step) {
      const piece = pieces[n]!;
      if (piece.thread !== pieces[seed]!.thread || isTaken[n]) break;
      if (piece.role === 'tie') continue;
      const section = asSection(program, piece, n, own);
      if (section === undefined) {
        if (isAreaOfItsOwn(piece)) break;
        between += length[n]!;
        if (between > Math.max(BETWEEN, BETWEEN_SHARE * fitting)) break;
        continue;
      }
      found.push(section);
      fitting += length[n]!;
      between = 0;
    }
    return found;
  };
  return [...walk(-1).reverse(), own, ...walk(1)];
}

/** Many close rows, all one way and surely told, are no stray travel but something else that is sewn there. */
function isAreaOfItsOwn({ rows, measured, confidence }: Piece): boolean {
  if (rows === undefined || !('spacing' in measured)) return false;
  return rows.count >= FEW_ROWS && rows.evenness >= OWN_EVENNESS && confidence >= OWN_CONFIDENCE && measured.spacing < OWN_SPACING;
}

function asSection(program: Program, piece: Piece, index: number, seed: Section | undefined): Section | undefined {
  const { rows, measured } = piece;
  if (rows !== undefined && (measured.kind === 'fill' || rows.evenness >= ONE_WAY)) {
    const fill = measured.kind === 'fill' ? measured : (measureRows(program, rows, 'fill') as FillMeasured);
    if (seed === undefined || isAlike(seed, rows, fill)) return makeSection(index, rows, fill);
  }
  if (seed === undefined) return undefined;
  const lattice = findLattice(program, piece.first - 1, piece.last, seed.fill.angle, seed.fill.spacing / 2);
  const inLattice = lattice === undefined ? undefined : latticeRows(program, piece.first - 1, piece.last, lattice);
  if (inLattice === undefined || inLattice.count < 2) return undefined;
  const fill = measureRows(program, inLattice, 'fill') as FillMeasured;
  // Open rows may lie on every so many lines of the lattice by chance; those of a section follow one another on it.
  return fill.spacing < IN_LATTICE * seed.fill.spacing ? makeSection(index, inLattice, fill) : undefined;
}

function isAlike(seed: Section, rows: RowSet, fill: FillMeasured): boolean {
  const slack = Math.min(seed.rows.count, rows.count) < FEW_ROWS ? FEW_SLACK : 1;
  if (!isSameAxis(seed.fill.angle, fill.angle, SAME_ANGLE * slack)) return false;
  return Math.abs(Math.log(seed.fill.spacing / fill.spacing)) <= SAME_PITCH * slack;
}

function makeSection(index: number, rows: RowSet, fill: FillMeasured): Section {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < fill.outline.length; k += 2) {
    minX = Math.min(minX, fill.outline[k]!);
    maxX = Math.max(maxX, fill.outline[k]!);
    minY = Math.min(minY, fill.outline[k + 1]!);
    maxY = Math.max(maxY, fill.outline[k + 1]!);
  }
  return { index, rows, fill, rings: ringsOf(fill), box: [minX, minY, maxX, maxY] };
}

/** The sections around the seed that make one whole, each touching another of them, with the way between them inside; in sewing order. */
function hangingTogether(program: Program, pieces: readonly Piece[], chain: readonly Section[], seed: number): Section[] {
  const reach = TOUCHING + TOUCHING_PITCH * chain.find((s) => s.index === seed)!.fill.spacing;
  const whole = new Set(chain.filter((s) => s.index === seed));
  for (let grown = 0; grown < whole.size;) {
    grown = whole.size;
    chain.forEach((section, k) => {
      if (whole.has(section)) return;
      const isLed = [chain[k - 1], chain[k + 1]].some((s) => s !== undefined && whole.has(s) && isLedOn(program, pieces, s, section));
      if (
        isLed ||
        [...whole].some((s) => isNear(s, section, pieces[s.index]!.stretch === pieces[section.index]!.stretch ? reach : reach - CUT_APART))
      )
        whole.add(section);
    });
  }
  const members = chain.filter((s) => whole.has(s));
  const rings = members.map((s) => s.rings);
  const at = members.findIndex((s) => s.index === seed);
  let [from, to] = [at, at];
  while (to + 1 < members.length && isWayInside(program, pieces, members[to]!.index, members[to + 1]!.index, rings)) to++;
  while (from > 0 && isWayInside(program, pieces, members[from - 1]!.index, members[from]!.index, rings)) from--;
  return members.slice(from, to + 1);
}

/** Whether the needle walks from one section to the other, without a cut, in more than a stitch or two: travel inside one shape. */
function isLedOn({ command }: Program, pieces: readonly Piece[], a: Section, b: Section): boolean {
  const [from, to] = a.index < b.index ? [a, b] : [b, a];
  const first = pieces[from.index]!.last + 1;
  const last = pieces[to.index]!.first;
  if (last - first < LEAST_WALK) return false;
  for (let i = first; i <= last; i++) if (command[i] !== STITCH) return false;
  return true;
}

function isWayInside({ x, y }: Program, pieces: readonly Piece[], from: number, to: number, rings: readonly (readonly Float64Array[])[]) {
  for (let n = from + 1; n < to; n++) {
    const piece = pieces[n]!;
    if (piece.role === 'tie') continue;
    let inside = 0;
    for (let i = piece.first; i < piece.last; i++)
      if (rings.some((r) => containsPoint(r, x[i]!, y[i]!) || distanceToRings(r, x[i]!, y[i]!) < BESIDE)) inside++;
    if (inside < INSIDE * (piece.last - piece.first)) return false;
  }
  return true;
}

function joinChain(program: Program, pieces: readonly Piece[], sections: readonly Section[]): Piece {
  const [first, last] = [pieces[sections[0]!.index]!, pieces[sections[sections.length - 1]!.index]!];
  const rows = joinRowSets(sections.map((s) => s.rows));
  const confidence = sections.reduce((sum, s) => sum + pieces[s.index]!.confidence * s.rows.count, 0) / rows.count;
  const measured = measureRows(program, rows, 'fill');
  return { ...makePiece(program, first.thread, first.stretch, first.first, last.last, 'cover', confidence), rows, measured };
}

/** Whether two areas lie no farther apart than `reach` mm. */
function isNear(a: Section, b: Section, reach: number): boolean {
  const isClear = (axis: 0 | 1): boolean => a.box[axis] > b.box[axis + 2]! + reach || b.box[axis] > a.box[axis + 2]! + reach;
  if (isClear(0) || isClear(1)) return false;
  for (const [from, to] of [
    [a, b],
    [b, a],
  ] as const) {
    for (const ring of from.rings) {
      for (let k = 0; k < ring.length; k += 2) {
        const [x, y] = [ring[k]!, ring[k + 1]!];
        if (x < to.box[0] - reach || x > to.box[2] + reach || y < to.box[1] - reach || y > to.box[3] + reach) continue;
        if (containsPoint(to.rings, x, y) || distanceToRings(to.rings, x, y) <= reach) return true;
      }
    }
  }
  return false;
}
