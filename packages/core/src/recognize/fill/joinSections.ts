import { type Program, STITCH, TRIM } from '../../model/program.ts';
import { containsPoint } from '../../geometry/ring.ts';
import { layLengths } from '../../model/stretches.ts';
import { makePiece } from '../rows/makePiece.ts';
import { measureRows, OPENEST } from '../rows/measureRows.ts';
import type { Piece } from '../rows/piece.ts';
import { distanceToRings, ringsOf } from '../rows/ringed.ts';
import { weighFillRows } from '../rows/fillOrSatin.ts';
import { joinRowSets, oneRow, type RowSet } from '../rows/rows.ts';
import { asSectionOf, createSections, isAlike, createNearness, ONE_WAY, type Section } from './sections.ts';

/** What a fill starts to be put together from has this many rows at least, running this much one way. */
const SEED_ROWS = 8;
/** Odds from which on what looks like a satin may be a narrow fill: see {@link weighFillRows}. */
const UNSURE = -1;
/** So many sections are that and no satins beside one another. */
const UNSURE_SECTIONS = 3;
/** Sections lie no farther apart than this (mm) and this share of the pitch besides. */
const TOUCHING = 0.7;
const TOUCHING_PITCH = 0.6;
/** Where the thread is cut between them, so much nearer: a cut more often parts two shapes than two sections. */
const CUT_APART = 0.35;
/** So many sections in a row that do not hang on what has been found belong to other shapes. */
const MOST_APART = 40;
/** What has so many rows, is at least so even and so surely told, and sewn closer than this (mm), is an object of its own between two sections. */
const OWN_ROWS = 12;
const OWN_EVENNESS = 0.9;
const OWN_CONFIDENCE = 0.85;
const OWN_SPACING = 1.2;
/** What lies between sections is no longer than this (mm), or than this share of what they are. */
const BETWEEN = 230;
const BETWEEN_SHARE = 0.35;
/** Travel between sections stays in the fill, or as near to it as this (mm), for this share of its penetrations. */
const INSIDE = 0.5;
const BESIDE = 2;
/** What carries over from one shape to the next takes fewer stitches than this; travel inside a shape takes more. */
const LEAST_WALK = 4;

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
  const byLength = (a: number, b: number): number => length[b]! - length[a]! || a - b;
  const sure = pieces.flatMap((piece, k) => (isSeed(piece) ? [k] : [])).sort(byLength);
  const unsure = pieces.flatMap((piece, k) => (isUnsureSeed(program, piece) ? [k] : [])).sort(byLength);
  const seeds = [...sure, ...unsure];
  const joinedAt = new Map<number, { readonly to: number; readonly piece: Piece }>();
  const isTaken = new Uint8Array(pieces.length);
  const memory = { ownSection: createSections(program, pieces), isNear: createNearness() };
  for (const seed of seeds) {
    if (isTaken[seed]) continue;
    const sections = withWaysInside(program, pieces, growFrom(program, pieces, length, isTaken, memory, seed), seed);
    if (sections.length < (pieces[seed]!.measured.kind === 'satin' ? UNSURE_SECTIONS : 2)) continue;
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

/** Rows that may be those of a narrow fill as well as throws of a satin seed one where enough others hang together with them: each section is one throw wide. */
function isUnsureSeed(program: Program, { rows, measured }: Piece): boolean {
  if (rows === undefined || measured.kind !== 'satin' || rows.count < SEED_ROWS || rows.evenness < ONE_WAY) return false;
  return weighFillRows(program, rows) > UNSURE;
}

/** What was found out about pieces and is asked again. */
interface Memory {
  readonly ownSection: (index: number) => Section | undefined;
  readonly isNear: (a: Section, b: Section, reach: number) => boolean;
}

/**
 * The sections around a seed that make one whole, each touching another of them, in sewing order. The walk goes on and back from the seed and
 * keeps which of the sections found hang together so far; it ends where the thread, or too much that is none, or too many that do not hang on
 * the seed say that its shape is over.
 */
function growFrom(
  program: Program,
  pieces: readonly Piece[],
  length: readonly number[],
  isTaken: Uint8Array,
  { ownSection, isNear }: Memory,
  seed: number,
): readonly Section[] {
  const own = ownSection(seed)!;
  const reach = TOUCHING + TOUCHING_PITCH * own.fill.spacing;
  const found: Section[] = [own];
  const isUnsure = pieces[seed]!.measured.kind === 'satin';
  // Which section each leads to that hangs together with it; one that leads to itself stands for all of them.
  const leads = [0];
  const headOf = (k: number): number => {
    while (leads[k] !== k) k = leads[k] = leads[leads[k]!]!;
    return k;
  };
  const add = (section: Section, before: number): void => {
    const k = found.push(section) - 1;
    leads.push(k);
    for (let n = 0; n < k; n++) {
      if (headOf(n) === headOf(k)) continue;
      const [one, other] = [pieces[found[n]!.index]!, pieces[section.index]!];
      // Columns side by side are as like each other as sections of a narrow fill, but no thread goes on from one to the next.
      if (isUnsure && one.stretch !== other.stretch) continue;
      const isCut = isThreadCutBetween(program, one, other);
      const isLed = n === before && isLedOn(program, pieces, found[n]!, section);
      if (isLed || isNear(found[n]!, section, isCut ? reach - CUT_APART : reach)) leads[headOf(n)] = headOf(k);
    }
  };
  for (const step of [-1, 1]) {
    let fitting = length[seed]!;
    let between = 0;
    let before = 0;
    let apart = 0;
    for (let n = seed + step; n >= 0 && n < pieces.length; n += step) {
      const piece = pieces[n]!;
      if (piece.thread !== pieces[seed]!.thread || isTaken[n]) break;
      if (piece.role === 'tie') {
        if (isCutBeside(program, piece)) break;
        continue;
      }
      const whole = ownSection(n);
      const section = whole !== undefined && isAlike(own, whole) ? whole : asSectionOf(program, piece, n, own);
      if (section === undefined) {
        if (isAreaOfItsOwn(piece)) break;
        between += length[n]!;
        if (between > Math.max(BETWEEN, BETWEEN_SHARE * fitting)) break;
        continue;
      }
      add(section, before);
      before = found.length - 1;
      apart = headOf(before) === headOf(0) ? 0 : apart + 1;
      if (apart > MOST_APART) break;
      fitting += length[n]!;
      between = 0;
    }
  }
  return found.filter((_, k) => headOf(k) === headOf(0)).sort((a, b) => a.index - b.index);
}

/** Whether the thread is cut beside a lock: what was tied off and cut is over, and what is tied in begins. Sections of one fill are joined by runs and jumps. */
function isCutBeside({ command, rowCount }: Program, { first, last }: Piece): boolean {
  for (let i = first - 1; i >= 0 && command[i] !== STITCH; i--) if (command[i] === TRIM) return true;
  for (let i = last + 1; i < rowCount && command[i] !== STITCH; i++) if (command[i] === TRIM) return true;
  return false;
}

function isThreadCutBetween({ command }: Program, a: Piece, b: Piece): boolean {
  if (a.stretch === b.stretch) return false;
  const [from, to] = a.first < b.first ? [a.last, b.first] : [b.last, a.first];
  for (let i = from + 1; i < to; i++) if (command[i] === TRIM) return true;
  return false;
}

/** Many close rows, all one way and surely told, are no stray travel but something else that is sewn there. */
function isAreaOfItsOwn({ rows, measured, confidence }: Piece): boolean {
  if (rows === undefined || !('spacing' in measured)) return false;
  return rows.count >= OWN_ROWS && rows.evenness >= OWN_EVENNESS && confidence >= OWN_CONFIDENCE && measured.spacing < OWN_SPACING;
}

/** Of sections that hang together those around the seed with the way between them inside. */
function withWaysInside(program: Program, pieces: readonly Piece[], members: readonly Section[], seed: number): readonly Section[] {
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
  const told = joinRowSets(sections.map((s) => s.rows));
  const confidence = sections.reduce((sum, s) => sum + pieces[s.index]!.confidence * s.rows.count, 0) / told.count;
  const rows = withStrays(program, told, first.first, last.last);
  const measured = measureRows(program, rows, 'fill');
  return {
    ...makePiece(program, first.thread, first.stretch, first.first, last.last, 'cover', confidence),
    rows,
    measured,
    isJoined: true,
  };
}

/** Stitches that lean no more than this (mm in each mm) against the rows, and reach so far along them (mm), are parts of rows. */
const ROW_LEAN = 0.2;
const ROW_REACH = 1;

/**
 * Rows with those besides that were too few to be told as a section between two walks: what runs along the rows and lies where none of them does. A
 * walk along a row that is there already adds nothing.
 */
function withStrays(program: Program, rows: RowSet, first: number, last: number): RowSet {
  const { x, y, command } = program;
  const isTold = new Uint8Array(last - first + 2);
  for (let r = 0; r < rows.count; r++) isTold.fill(1, Math.max(0, rows.first[r]! + 1 - first), rows.last[r]! - first + 1);
  const measured = measureRows(program, rows, 'fill');
  const rings = ringsOf(measured);
  const step = 'spacing' in measured ? measured.spacing / 2 : 0;
  const turn = (rows.angle * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const across = (i: number): number => y[i]! * c - x[i]! * s;
  const isOnLine = onLines(
    Float64Array.from(rows.last, (row, r) => (across(row) + across(Math.min(row, rows.first[r]! + 1))) / 2),
    step,
  );
  const isStray = (i: number): boolean => {
    if (isTold[i - first] === 1 || command[i] !== STITCH || command[i - 1] !== STITCH) return false;
    const [dx, dy] = [x[i]! - x[i - 1]!, y[i]! - y[i - 1]!];
    const along = Math.abs(dx * c + dy * s);
    if (along < ROW_REACH || Math.abs(dy * c - dx * s) > ROW_LEAN * along || !isOnLine(across(i))) return false;
    return !containsPoint(rings, (x[i]! + x[i - 1]!) / 2, (y[i]! + y[i - 1]!) / 2);
  };
  const strays: RowSet[] = [];
  for (let i = first + 1; i <= last; i++) {
    if (!isStray(i)) continue;
    const from = i - 1;
    const way = Math.sign((x[i]! - x[from]!) * c + (y[i]! - y[from]!) * s);
    while (i < last && isStray(i + 1) && Math.sign((x[i + 1]! - x[i]!) * c + (y[i + 1]! - y[i]!) * s) === way) i++;
    strays.push(oneRow(program, from, i));
  }
  return strays.length === 0 ? rows : joinRowSets([rows, ...strays]);
}

/** Rows that lie on lines a step apart are this sure of it, 0 to 1; what lies so far (of a step) from a line is on none. */
const SURE_LINES = 0.8;
const OFF_LINE = 0.25;

/** Whether a place across the rows is on one of the lines that they lie on; always, where they lie on none that could be told. */
function onLines(v: Float64Array, step: number): (across: number) => boolean {
  let [re, im] = [0, 0];
  for (const at of v) {
    re += Math.cos((2 * Math.PI * at) / step);
    im += Math.sin((2 * Math.PI * at) / step);
  }
  if (Math.hypot(re, im) < SURE_LINES * v.length) return () => true;
  const phase = Math.atan2(im, re) / (2 * Math.PI);
  return (across) => {
    const off = across / step - phase;
    return Math.abs(off - Math.round(off)) <= OFF_LINE;
  };
}
