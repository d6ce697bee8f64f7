import {
  applyOperation,
  axisDifference,
  containsPoint,
  defaultTarget,
  generateObject,
  mapCover,
  type ObjectShape,
  objectsOf,
  type ObjectSpec,
  offsetRings,
  placeOf,
  type Program,
  ProgramBuilder,
  readObjectSpec,
  recognizeProgram,
  repairShape,
  sewSpecs,
  signedArea,
  startDesign,
  STITCH,
  type StitchObject,
  USUAL_SPEC,
} from '@isola/core';
import { readArguments, readShapes } from '../recognition/shapes.ts';
import { patternSet } from '../recognition/patternSet.ts';
import { seededChance, stitchShape } from '../recognition/stitchSet.ts';
import { writePictures } from './pictures.ts';
import { pitchBetweenWays, pitchTowardEdge } from './wayPitch.ts';

// How good generated stitches are on shapes that nobody here drew: letters, icons, lands. The shapes named `aside` are for reporting only.

const { part, namesMisses } = readArguments(process.argv.slice(2));
const target = defaultTarget();
/** A cell is covered from this K on, or, in open rows, from this share of what its object lays where it lies. */
const COVERED = 0.4;
const COVERED_OPEN = 0.5;

interface Tally {
  overlap: number[];
  count: number[];
}

const quantile = (values: readonly number[], share: number): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? NaN;
};

const tally: Record<string, Tally> = {};
/** How far the count of each fill is off, by what its shape is. */
const fills: Record<string, number[]> = {};
const refused: string[] = [];

function familyOf(name: string): string {
  const [kind] = name.split(' ');
  return kind === 'letter' || kind === 'serif' ? 'letters' : kind === 'land' ? 'lands' : kind === 'country' ? 'countries' : 'icons';
}

/** Share of the cells covered by some rows of one program that are covered by those of another. Both lie on the same cells. */
function coverOverlap(before: Program, [b0, b1]: RowRange, after: Program, [a0, a1]: RowRange): number {
  const frame = [...cornersOf(before, b0, b1), ...cornersOf(after, a0, a1)];
  const [a, b] = [mapCover(only(before, b0, b1, frame), target.thread), mapCover(only(after, a0, a1, frame), target.thread)];
  const covered = Math.min(
    COVERED,
    COVERED_OPEN *
      quantile(
        [...a.cover].filter((k) => k > 0),
        0.5,
      ),
  );
  let both = 0;
  let all = 0;
  for (let at = 0; at < a.cover.length; at++) {
    if (a.cover[at]! < covered) continue;
    all++;
    if (b.cover[at]! >= 0.6 * covered) both++;
  }
  return all === 0 ? 1 : both / all;
}

type RowRange = readonly [first: number, last: number];

function cornersOf({ x, y }: Program, first: number, last: number): [number, number][] {
  const [xs, ys] = [x.subarray(first, last + 1), y.subarray(first, last + 1)];
  return [
    [Math.min(...xs), Math.min(...ys)],
    [Math.max(...xs), Math.max(...ys)],
  ];
}

/** A program of some rows of another, moved by jumps where they do not follow one another, and lone penetrations at the corners of a frame. */
function only(program: Program, first: number, last: number, frame: readonly (readonly [number, number])[]): Program {
  const builder = new ProgramBuilder().color('#1f4e5f', '');
  for (const [x, y] of frame) builder.jump(x, y).stitch(x, y).trim();
  for (let i = Math.max(0, first - 1); i <= last; i++) {
    if (program.command[i] === STITCH) builder.stitch(program.x[i]!, program.y[i]!);
    else builder.trim();
    if (program.command[i] !== STITCH && i < last) builder.jump(program.x[i + 1]!, program.y[i + 1]!);
  }
  return builder.end().build();
}

/** Rebuilds an object of a program with its own spec, and notes under `kind` what it keeps. */
function rebuild(
  name: string,
  program: Program,
  kind: string,
  isMeant: (object: StitchObject) => boolean,
  note?: (off: number) => void,
): void {
  const design = startDesign(program, target);
  for (const object of objectsOf(design.plan).objects) {
    if (!isMeant(object) || design.plan.objects[object.id] === undefined) continue;
    const spec = readObjectSpec(design, object.id);
    if (!spec.ok) continue;
    const sewn = sewSpecs(design, [{ object: object.id, spec: spec.value }]);
    if (sewn.done.length === 0) {
      refused.push(`${name} ${object.name}: ${sewn.refused[0]!.why}`);
      continue;
    }
    const next = applyOperation(design, { id: 'sequence', operations: [...sewn.operations] });
    if (!next.ok) throw new Error(next.error);
    const [was, is] = [placeOf(design.plan, object.id), placeOf(next.value.plan, object.id)];
    const rows: RowRange = [was.first, was.end - 1];
    const overlap = coverOverlap(design.program, rows, next.value.program, [is.first, is.end - 1]);
    const { before: old, after: now, notes } = sewn.done[0]!;
    const of = (tally[kind] ??= { overlap: [], count: [] });
    of.overlap.push(overlap);
    of.count.push(now / old - 1);
    note?.(Math.abs(now / old - 1));
    if (namesMisses && (overlap < 0.97 || Math.abs(now / old - 1) > 0.05))
      console.log(name, object.name, `overlap ${overlap.toFixed(3)}, ${old} → ${now}`, notes.join('; '));
  }
}

const shapes = readShapes();
shapes.forEach((shape, index) => {
  if (shape.part !== part) return;
  for (const round of [0, 1]) {
    const known = stitchShape(shape, index * 1000 + round);
    for (const kind of ['fill', 'satin', 'run'] as const) {
      const note = (off: number): void => void (fills[familyOf(shape.name)] ??= []).push(off);
      const isMeant = (object: StitchObject): boolean =>
        object.kind === kind && object.role === 'cover' && object.pattern === undefined && object.stitches >= 20;
      rebuild(known.name, known.program, kind, isMeant, kind === 'fill' ? note : undefined);
    }
  }
});
for (const { name, program } of patternSet(2, part)) {
  for (const kind of ['contour', 'meander', 'edge-stitch'] as const) rebuild(name, program, kind, ({ pattern }) => pattern === kind);
}

console.log(`rebuilt with their own specs: ${part}`);
console.table(
  Object.entries(tally).map(([kind, { overlap, count }]) => ({
    kind,
    objects: overlap.length,
    'cover kept, middle': quantile(overlap, 0.5).toFixed(3),
    'cover kept, tenth': quantile(overlap, 0.1).toFixed(3),
    '0.97 and more': `${((100 * overlap.filter((v) => v >= 0.97).length) / overlap.length).toFixed(1)} %`,
    'count off, middle': `${(100 * quantile(count.map(Math.abs), 0.5)).toFixed(1)} %`,
    'count off, nine of ten': `${(100 * quantile(count.map(Math.abs), 0.9)).toFixed(1)} %`,
    'within 5 %': `${((100 * count.filter((v) => Math.abs(v) <= 0.05).length) / count.length).toFixed(1)} %`,
  })),
);
for (const [family, off] of Object.entries(fills))
  console.log(
    `fills of ${family}: ${off.filter((v) => v <= 0.05).length} of ${off.length} within 5 %, middle ${(100 * quantile(off, 0.5)).toFixed(1)} %`,
  );
console.log(`refused: ${refused.length}`);
for (const why of refused.slice(0, namesMisses ? 40 : 0)) console.log(`  ${why}`);

/** The paths of parts: those that follow one another without a cut are one. */
function joined(parts: readonly { readonly points: Float64Array; readonly isApart: boolean }[]): Float64Array[] {
  const paths: number[][] = [];
  for (const { points, isApart } of parts) {
    if (isApart || paths.length === 0) paths.push([]);
    paths[paths.length - 1]!.push(...points);
  }
  return paths.map((path) => Float64Array.from(path));
}

// What was asked against what is found in the result.
const asked: { kind: string; pitch: number; angle: number; outside: number; longest: number; paths: number; parts: number }[] = [];
/** Of contours, how far the pitch is off when what is left between lines that meet in the middle counts, too. */
const middles: number[] = [];
function measure(shape: ObjectShape, spec: ObjectSpec, rings: readonly Float64Array[]): void {
  const made = generateObject(shape, spec);
  if (!made.ok) {
    refused.push(`${spec.kind}: ${made.error}`);
    return;
  }
  const builder = new ProgramBuilder().color('#1f4e5f', '');
  let paths = 0;
  let longest = 0;
  let outside = 0;
  let points = 0;
  const near = offsetRings(rings, spec.pull + 0.3);
  let [px, py] = [NaN, NaN];
  for (const { points: path, isApart } of made.value.parts) {
    if (isApart) {
      paths++;
      builder.trim().jump(path[0]!, path[1]!);
    }
    for (let k = 0; k < path.length; k += 2) {
      const [x, y] = [path[k]!, path[k + 1]!];
      builder.stitch(x, y);
      if (!(isApart && k === 0)) longest = Math.max(longest, Math.hypot(x - px, y - py));
      [px, py] = [x, y];
      points++;
      if (!containsPoint(near, x, y)) outside++;
    }
  }
  const sound = repairShape(rings);
  const parts = sound.ok ? sound.value.rings.filter((ring) => signedArea(ring) > 0).length : 0;
  const { objects } = recognizeProgram(builder.trim().end().build());
  const main = objects.reduce<StitchObject | undefined>((a, b) => (a === undefined || b.stitches > a.stitches ? b : a), undefined);
  const pitch =
    spec.kind === 'fill'
      ? main?.spacing
      : spec.kind === 'contour'
        ? pitchTowardEdge(joined(made.value.parts), rings, spec.spacing)
        : pitchBetweenWays(joined(made.value.parts), spec.spacing);
  if (spec.kind === 'contour') middles.push(Math.abs(pitchBetweenWays(joined(made.value.parts), spec.spacing) / spec.spacing - 1));
  asked.push({
    kind: spec.kind,
    pitch: Math.abs((pitch ?? NaN) / spec.spacing - 1),
    angle: spec.kind === 'fill' && main?.angle !== undefined ? axisDifference(main.angle, spec.angle) : NaN,
    outside: outside / points,
    longest,
    paths,
    parts,
  });
}

const chance = seededChance(11);
shapes.forEach((shape) => {
  if (shape.part !== part) return;
  for (const rings of shape.areas) {
    const list = rings.map((ring) => [...ring]);
    const spacing = 0.3 + 0.4 * chance();
    measure({ kind: 'area', rings: list }, { ...USUAL_SPEC, spacing, angle: 180 * chance(), pull: 0.3 * chance() }, rings);
    for (const kind of ['contour', 'meander'] as const)
      measure({ kind: 'area', rings: list }, { ...USUAL_SPEC, kind, spacing: 0.8 + chance(), stitchLength: 2.5 }, rings);
  }
});

console.log('what was asked, found in the result');
console.table(
  ['fill', 'contour', 'meander'].map((kind) => {
    const of = asked.filter((a) => a.kind === kind);
    const known = (values: number[]): number[] => values.filter((v) => !Number.isNaN(v));
    return {
      kind,
      shapes: of.length,
      'too narrow to tell': of.filter((a) => Number.isNaN(a.pitch)).length,
      'pitch off, middle': `${(100 * quantile(known(of.map((a) => a.pitch)), 0.5)).toFixed(1)} %`,
      'nine of ten': `${(100 * quantile(known(of.map((a) => a.pitch)), 0.9)).toFixed(1)} %`,
      'within 3 %': `${((100 * of.filter((a) => a.pitch <= 0.03).length) / known(of.map((a) => a.pitch)).length).toFixed(1)} %`,
      'angle off, nine of ten': `${quantile(known(of.map((a) => a.angle)), 0.9).toFixed(2)}°`,
      'penetrations outside': `${((100 * of.reduce((sum, a) => sum + a.outside, 0)) / Math.max(1, of.length)).toFixed(3)} %`,
      'longest, mm': Math.max(...of.map((a) => a.longest)).toFixed(2),
      'more paths than parts': of.filter((a) => a.paths > a.parts).length,
    };
  }),
);

const known = middles.filter((off) => !Number.isNaN(off));
console.log(
  `contours, where lines meet in the middle counting too: pitch off ${(100 * quantile(known, 0.5)).toFixed(1)} %, nine of ten ${(100 * quantile(known, 0.9)).toFixed(1)} %`,
);

if (part === 'aside') console.log(`pictures: ${writePictures('docs/generators').join(', ')}`);
