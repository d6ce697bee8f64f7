import { type Block, entryEnd, exitEnd, type Link, type ObjectId, type Plan, type PlanObject, type SourceRows } from '../model/plan.ts';
import { COLOR, END, type Program, type ProgramThread, STITCH } from '../model/program.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { type Recognition, recognizeProgram } from '../recognize/recognizeProgram.ts';
import { countedFrom } from './countedFrom.ts';

/**
 * The plan of a file: every cover with its underlay and travel becomes an object, what lies between becomes the links. Assembled again it is the
 * file, bit for bit. Objects have the ids of their recognition. O(rows).
 */
export function adoptProgram(program: Program, recognition: Recognition = recognizeProgram(program)): Plan {
  const bodies = findBodies(program, recognition);
  const tiesIn = tiesByRows(recognition);
  const objects: Record<ObjectId, PlanObject> = {};
  const links: Record<ObjectId, Link> = {};
  const blocks: { id: string; thread: ProgramThread | null; objects: ObjectId[] }[] = [];
  let from = 0;
  let before: PlanObject | null = null;
  let colors = 0;
  for (const body of bodies) {
    const { id } = body.main;
    const object = adoptObject(program, body, body.first > from);
    const rows = { first: from, end: body.first };
    links[id] = findLink(program, tiesIn(rows), before, object, rows);
    const colorsBefore = colors;
    for (let i = from; i < body.first; i++) if (program.command[i] === COLOR) colors++;
    if (blocks.length === 0 || colors > colorsBefore)
      blocks.push({ id: `b${blocks.length + 1}`, thread: program.threads[colors - 1] ?? null, objects: [] });
    blocks[blocks.length - 1]!.objects.push(id);
    objects[id] = object;
    from = body.end;
    before = object;
  }
  const rows = { first: from, end: program.rowCount };
  const ending = findLink(program, tiesIn(rows), before, null, rows);
  return { source: program, blocks: blocks satisfies Block[], objects, links, ending };
}

export interface Body extends SourceRows {
  /** What the rows are there for. */
  readonly main: StitchObject;
  readonly parts: readonly StitchObject[];
}

function adoptObject(program: Program, { first, end, main, parts }: Body, isOwnStart: boolean): PlanObject {
  const start = Math.max(0, first - 1);
  return {
    id: main.id,
    name: main.name,
    sewn: {
      rows: { first, end },
      start: { x: program.x[start]!, y: program.y[start]! },
      isOwnStart,
      reading: countedFrom(main, first),
      parts: parts.map((part) => countedFrom(part, first)),
      made: null,
      edited: 0,
    },
    own: null,
  };
}

function findLink(
  program: Program,
  ties: readonly StitchObject[],
  before: PlanObject | null,
  next: PlanObject | null,
  rows: SourceRows,
): Link {
  const from = before === null ? null : exitEnd(program, before.sewn);
  const to = next === null ? null : entryEnd(next.sewn);
  return { way: 'as-found', found: { after: before?.id ?? null, rows, from, to }, ties: ties.map((tie) => countedFrom(tie, rows.first)) };
}

/** Gives the ties in ranges of rows that are asked for in ascending order. */
function tiesByRows({ objects }: Recognition): (rows: SourceRows) => StitchObject[] {
  const ties = objects.filter((o) => o.role === 'tie').sort((a, b) => a.first - b.first);
  let at = 0;
  return ({ first, end }) => {
    const found: StitchObject[] = [];
    for (; at < ties.length && ties[at]!.first < end; at++) if (ties[at]!.first >= first && ties[at]!.last < end) found.push(ties[at]!);
    return found;
  };
}

interface Segment {
  head: number;
  first: number;
  last: number;
}

/** Rows of one cover with all that belongs to it, in sewing order; none has a color row in it. */
export function findBodies(program: Program, { objects, ownerOfRow }: Recognition): Body[] {
  const indexOf = new Map(objects.map((o, k) => [o.id, k]));
  const headOf = objects.map((_, k) => {
    let head = k;
    // The steps of an applique are objects of their own: they may be sewn at different times.
    for (let up = 0; objects[head]!.parent !== undefined && !isStep(objects[head]!) && up < MOST_LEVELS; up++)
      head = indexOf.get(objects[head]!.parent!)!;
    return head;
  });
  const segments: Segment[] = [];
  let isParted = true;
  for (let i = 0; i < program.rowCount; i++) {
    const command = program.command[i]!;
    if (command === COLOR || command === END) isParted = true;
    const owner = ownerOfRow[i]!;
    if (command !== STITCH || owner < 0 || objects[owner]!.role === 'tie') continue;
    const last = segments[segments.length - 1];
    if (!isParted && last !== undefined && last.head === headOf[owner]) last.last = i;
    else segments.push({ head: headOf[owner]!, first: i, last: i });
    isParted = false;
  }
  const whole = joinInterrupted(program, segments, ownerOfRow);
  const used = new Set<number>();
  return whole.map((segment): Body => {
    const members = membersOf(objects, ownerOfRow, segment);
    const isHead = members.includes(segment.head) && !used.has(segment.head);
    const free = members.filter((k) => !used.has(k));
    const longest = free.reduce((a, b) => (a >= 0 && objects[a]!.stitches >= objects[b]!.stitches ? a : b), -1);
    const main = isHead ? segment.head : longest;
    const mine = free.filter((k) => k !== main && objects[k]!.first >= segment.first - 1 && objects[k]!.last <= segment.last);
    for (const k of [main, ...mine]) if (k >= 0) used.add(k);
    // The penetration where the needle comes down belongs to the way there.
    const isDown = segment.first === 0 || program.command[segment.first - 1] !== STITCH;
    return {
      first: isDown ? segment.first + 1 : segment.first,
      end: segment.last + 1,
      main: main >= 0 ? objects[main]! : restOf(objects[segment.head]!, segment),
      parts: mine.map((k) => objects[k]!),
    };
  });
}

function isStep({ role }: StitchObject): boolean {
  return role === 'placement' || role === 'tackdown';
}

/** What is left of an object that has rows elsewhere, too, as an object of its own. */
function restOf(object: StitchObject, { first, last }: Segment): StitchObject {
  const spans = object.spans.flatMap((span) => {
    const inside = { first: Math.max(first, span.first), last: Math.min(last, span.last) };
    return inside.last >= inside.first ? [inside] : [];
  });
  const stitches = spans.reduce((sum, span) => sum + span.last - span.first + 1, 0);
  return { ...object, id: `${object.id}.${first}`, first, last, spans, stitches, underlay: [] };
}

/** Parts of parts are no deeper than this. */
const MOST_LEVELS = 8;

function membersOf(objects: readonly StitchObject[], ownerOfRow: Int32Array, { first, last }: Segment): number[] {
  const found = new Set<number>();
  for (let i = first; i <= last; i++) if (ownerOfRow[i]! >= 0) found.add(ownerOfRow[i]!);
  return [...found].sort((a, b) => objects[a]!.first - objects[b]!.first);
}

/** An object that others interrupt takes them in, unless the thread is changed there: what is sewn in one go moves in one go. */
function joinInterrupted(program: Program, segments: readonly Segment[], ownerOfRow: Int32Array): Segment[] {
  const lastOf = new Map<number, number>();
  segments.forEach(({ head, first, last }, k) => {
    for (let i = first; i <= last; i++)
      if (ownerOfRow[i] === head) {
        lastOf.set(head, k);
        break;
      }
  });
  const out: Segment[] = [];
  for (let k = 0; k < segments.length; k++) {
    let end = lastOf.get(segments[k]!.head) ?? k;
    const holdsHead = (n: number): boolean => {
      const { head, first, last } = segments[n]!;
      for (let i = first; i <= last; i++) if (ownerOfRow[i] === head) return true;
      return false;
    };
    if (end <= k || !holdsHead(k)) end = k;
    for (let n = k + 1; n <= end; n++) end = Math.max(end, holdsHead(n) ? lastOf.get(segments[n]!.head)! : n);
    if (hasColor(program, segments[k]!.first, segments[end]!.last)) end = k;
    out.push({ head: segments[k]!.head, first: segments[k]!.first, last: segments[end]!.last });
    k = end;
  }
  return out;
}

function hasColor({ command }: Program, first: number, last: number): boolean {
  for (let i = first; i <= last; i++) if (command[i] === COLOR || command[i] === END) return true;
  return false;
}
