import { AuditContext } from '../audit/AuditContext.ts';
import { auditDesign } from '../audit/auditDesign.ts';
import { findFaults } from '../audit/findFaults.ts';
import type { Finding } from '../audit/finding.ts';
import { findRule } from '../audit/rulebook.ts';
import { isOnStitches } from '../audit/rules/underlay/noUnderlay.ts';
import { applyOperation } from '../edit/operations/registry.ts';
import { readObjectSpec, sewSpecs } from '../edit/sewSpecs.ts';
import { boxOfRing, signedArea } from '../geometry/ring.ts';
import type { Design } from '../model/design.ts';
import { orderOf } from '../model/plan.ts';
import { type Program, ProgramBuilder, STITCH } from '../model/program.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { startDesign } from '../plan/designOf.ts';
import { objectsOf } from '../plan/objectsOf.ts';
import { perimeterOf } from '../recognize/rows/ringed.ts';
import { SPEC_FAULTS, type SpecFault } from './faults.ts';

/** A fault that was put into a file: the rule that it breaks, the object that has it by its name, the box (mm) around that, and what was done. */
export interface PlantedFault {
  readonly rule: string;
  readonly name: string;
  readonly box: readonly [minX: number, minY: number, maxX: number, maxY: number];
  readonly words: string;
}

export interface PlantedFile {
  readonly program: Program;
  readonly planted: readonly PlantedFault[];
}

/** So many files are read again for each fault that is wanted, since not every fault that is sewn is one on every cloth. */
const TRIES = 5;
/** Objects that lines or narrow columns are made of are left alone, mm. */
const LEAST_WIDTH = 1.6;
/** Open fills are meant so. */
const MOST_SPACING = 0.75;
/** A cut is looked for so far around itself, mm. */
const AROUND_CUT = 1.5;

/**
 * Plants up to `count` faults in a file, each in an object of its own, none that it had already, and each one that an audit finds on this target. The
 * same `seed` plants the same ones. Fewer where the file has no more objects that can be sewn so. Reads the file again for each: takes seconds.
 */
export function plantFaults(program: Program, target: Design['target'], count: number, seed: number): PlantedFile {
  const chance = randomFrom(seed);
  let design = startDesign(program, target);
  let before = auditDesign(design);
  const planted: PlantedFault[] = [];
  const wanted = shuffled([...SPEC_FAULTS, 'cut' as const], chance);
  /** Objects of the present design that each fault was tried on. */
  const tried = new Map<(typeof wanted)[number], Set<string>>();
  for (let k = 0; k < wanted.length * TRIES && planted.length < count; k++) {
    const fault = wanted[k % wanted.length]!;
    const but = tried.get(fault) ?? new Set();
    tried.set(fault, but);
    const next = fault === 'cut' ? cutThread(design, chance) : sewObjectWith(design, fault, chance, but);
    if (next === undefined || planted.some(({ box }) => overlaps(box, next.planted.box))) continue;
    const { rule, box } = next.planted;
    if (isFoundIn(before, rule, box)) continue;
    // What is no fault where objects are known is none when they are read: that takes longer.
    const known = findFaults(new AuditContext(next.design), findRule(rule), {}).map(({ finding }) => finding);
    if (fault !== 'cut' && !isFoundIn(known, rule, box)) continue;
    const read = fault === 'cut' ? next.design : startDesign(next.design.program, target);
    const now = auditDesign(read);
    if (!isFoundIn(now, rule, box)) continue;
    planted.push(next.planted);
    [design, before] = [read, now];
    tried.clear();
  }
  return { program: design.program, planted };
}

/** Ids of the objects that can have a fault of their spec. */
export function objectsThatFit(design: Design, { kind, least, broad = 0, isOfItsBase }: SpecFault): string[] {
  const { plan } = design;
  const context = isOfItsBase === true ? new AuditContext(design) : undefined;
  const isHeld = (id: string): boolean => context?.areas.some((area) => area.id === id && isOnStitches(context, area)) === true;
  return orderOf(plan).filter((id) => {
    const { reading } = plan.objects[id]!.sewn;
    return (
      reading.kind === kind &&
      reading.pattern === undefined &&
      (reading.spacing ?? Infinity) < MOST_SPACING &&
      Math.abs(signedArea(reading.outline)) >= least &&
      breadthOf(reading) >= broad &&
      (reading.width?.mean ?? 2 * LEAST_WIDTH) > LEAST_WIDTH &&
      !isHeld(id)
    );
  });
}

/** How broad an area is in the mean, mm: of a strip its width. */
function breadthOf({ outline, holes }: StitchObject): number {
  const rings = [outline, ...holes];
  const area = Math.abs(signedArea(outline)) - holes.reduce((sum, hole) => sum + Math.abs(signedArea(hole)), 0);
  return (2 * area) / Math.max(1e-9, perimeterOf(rings));
}

/** A design of which one object is sewn with a fault, written and read again as a file is; nothing where none can have it or it cannot be sewn so. */
export function sewFault(design: Design, fault: SpecFault, chance: () => number): { design: Design; planted: PlantedFault } | undefined {
  const made = sewObjectWith(design, fault, chance, new Set());
  return made && { ...made, design: startDesign(made.design.program, design.target) };
}

/** The same, not read again; objects in `but` are passed by, and the one that is taken is put there. */
function sewObjectWith(
  design: Design,
  fault: SpecFault,
  chance: () => number,
  but: Set<string>,
): { design: Design; planted: PlantedFault } | undefined {
  const fit = objectsThatFit(design, fault).filter((one) => !but.has(one));
  const id = fit[Math.floor(chance() * fit.length)];
  if (id !== undefined) but.add(id);
  const read = id === undefined ? undefined : readObjectSpec(design, id);
  if (id === undefined || read?.ok !== true) return undefined;
  const spec = { ...read.value, ...fault.change(read.value, design.target) };
  const made = sewSpecs(design, [{ object: id, spec }]);
  const next = applyOperation(design, { id: 'sequence', operations: [...made.operations] });
  // Underlay that is sewn before other objects stays where it is: nothing was planted then.
  if (made.operations.length === 0 || !next.ok || made.done.some(({ notes }) => notes.some((note) => note.includes('stay'))))
    return undefined;
  // A column that is sewn from its far end is walked along first, which holds it as a center run does.
  const asked = new Set(spec.underlay.map(({ kind }) => kind));
  if (next.value.plan.objects[id]!.sewn.reading.underlay.some(({ kind }) => !asked.has(kind))) return undefined;
  const { sewn, name } = design.plan.objects[id]!;
  return {
    design: next.value,
    planted: { rule: fault.rule, name, box: boxOfRing(sewn.reading.outline), words: fault.words },
  };
}

/** A design in the midst of whose thread a cut was put. */
function cutThread(design: Design, chance: () => number): { design: Design; planted: PlantedFault } | undefined {
  const { plan, program, target } = design;
  const covers = objectsOf(plan).objects.filter(({ role, kind, stitches }) => role === 'cover' && kind !== 'other' && stitches > 80);
  const object = covers[Math.floor(chance() * covers.length)];
  const span = object?.spans.find(({ first, last }) => last - first > 40);
  if (object === undefined || span === undefined) return undefined;
  const row = (span.first + span.last) >> 1;
  if (program.command[row] !== STITCH || program.command[row + 1] !== STITCH) return undefined;
  const builder = new ProgramBuilder();
  builder.copy(program, 0, row + 1);
  builder.trim().jump(program.x[row + 1]!, program.y[row + 1]!);
  builder.copy(program, row + 1, program.rowCount);
  const [x, y] = [program.x[row]!, program.y[row]!];
  return {
    design: startDesign(builder.build(), target),
    planted: {
      ...{ rule: 'needless-trim', name: object.name, words: 'its thread was cut in the midst of it' },
      box: [x - AROUND_CUT, y - AROUND_CUT, x + AROUND_CUT, y + AROUND_CUT],
    },
  };
}

/** Whether a rule is broken at a place of a box, or within a hair of it. */
export function isFoundIn(findings: readonly Finding[], rule: string, box: PlantedFault['box']): boolean {
  return findings.some((finding) => finding.rule === rule && finding.places.some(({ x, y }) => isIn(box, x, y)));
}

const HAIR = 1;
export const isIn = ([minX, minY, maxX, maxY]: PlantedFault['box'], x: number, y: number): boolean =>
  x >= minX - HAIR && x <= maxX + HAIR && y >= minY - HAIR && y <= maxY + HAIR;

/** Whether two boxes lie on each other so far that a fault of one could be taken for one of the other. */
function overlaps(a: PlantedFault['box'], b: PlantedFault['box']): boolean {
  const [width, height] = [Math.min(a[2], b[2]) - Math.max(a[0], b[0]), Math.min(a[3], b[3]) - Math.max(a[1], b[1])];
  const area = ([minX, minY, maxX, maxY]: PlantedFault['box']): number => (maxX - minX) * (maxY - minY);
  return width > 0 && height > 0 && width * height > 0.5 * Math.min(area(a), area(b));
}

/** Numbers from 0 to below 1, the same ones for the same seed. */
function randomFrom(seed: number): () => number {
  let at = seed >>> 0;
  return () => (at = (Math.imul(at, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}

function shuffled<T>(list: readonly T[], chance: () => number): T[] {
  const out = [...list];
  for (let k = out.length - 1; k > 0; k--) {
    const other = Math.floor(chance() * (k + 1));
    [out[k], out[other]] = [out[other]!, out[k]!];
  }
  return out;
}
