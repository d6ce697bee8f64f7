import { type Program, STITCH, TRIM } from '../../model/program.ts';
import { containsPoint } from '../../geometry/ring.ts';
import { layLengths } from '../../model/stretches.ts';
import { joinChain } from './joinChain.ts';
import { OPENEST } from '../rows/measureRows.ts';
import type { Piece } from '../rows/piece.ts';
import { distanceToRings } from '../rows/ringed.ts';
import { weighFillRows } from '../rows/fillOrSatin.ts';
import { asSectionOf, createNearness, createSections, isAlike, isAreaOfItsOwn, mostBetween, ONE_WAY, type Section } from './sections.ts';

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
/** Rows closer than this (mm) are an object of their own between two sections. */
const OWN_SPACING = 1.2;
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
  const joinedAt = new Map<number, { readonly to: number; readonly pieces: readonly Piece[] }>();
  const isTaken = new Uint8Array(pieces.length);
  const memory = { ownSection: createSections(program, pieces), isNear: createNearness() };
  for (const seed of seeds) {
    if (isTaken[seed]) continue;
    const sections = withWaysInside(program, pieces, growFrom(program, pieces, length, isTaken, memory, seed), seed);
    if (sections.length < (pieces[seed]!.measured.kind === 'satin' ? UNSURE_SECTIONS : 2)) continue;
    const [from, to] = [sections[0]!.index, sections[sections.length - 1]!.index];
    const { piece, head, tail } = joinChain(program, pieces, sections, lay);
    // Straights of a line may seem to be rows one by one; together they tell.
    if ('spacing' in piece.measured && piece.measured.spacing > OPENEST) continue;
    isTaken.fill(1, from, to + 1);
    joinedAt.set(from, { to, pieces: [...head, piece, ...tail] });
  }
  const out: Piece[] = [];
  for (let k = 0; k < pieces.length; k++) {
    const joined = joinedAt.get(k);
    out.push(...(joined?.pieces ?? [pieces[k]!]));
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
        if (isCloseArea(piece)) break;
        between += length[n]!;
        if (between > mostBetween(fitting)) break;
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

/** Many close rows, all one way and surely told, are something else that is sewn there. */
function isCloseArea(piece: Piece): boolean {
  return isAreaOfItsOwn(piece) && 'spacing' in piece.measured && piece.measured.spacing < OWN_SPACING;
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
