import { auditDesign, type Finding, planOfRepair } from '@isola/core';
import { handSet } from '../recognition/handSet.ts';
import { readArguments, readShapes } from '../recognition/shapes.ts';
import { seededChance } from '../recognition/stitchSet.ts';
import { IN_DRAWINGS, type Planted } from './plantedFaults.ts';
import { IN_FILES, plantInFile } from './plantedInFiles.ts';
import { CLOTHS, type Drawing, drawingOf, sewn, targetOn } from './soundSet.ts';

// How many planted faults the audit finds where they are, what it says of sound designs, and what the plan of repair leaves of what it claims.

const { part, namesMisses } = readArguments(process.argv.slice(2));
/** One rule alone, where it is named. */
const only = process.argv[4];
const shapes = readShapes().filter((shape) => shape.part === part);
const hands = handSet(part === 'unseen' || part === 'aside' ? 'kept' : 'work');
/** Objects of files and their cloths are taken by chance: by this one, or `SEEDS` times by others. */
const rounds = Array.from({ length: Number(process.env['SEEDS'] ?? 0) }, (_, k) => ({ chance: seededChance(k + 1), turn: k + 1 }));
if (rounds.length === 0) rounds.push({ chance: seededChance(20), turn: 0 });
const DESIGNS = 12;

const drawings = Array.from({ length: Math.min(DESIGNS, shapes.length >> 1) }, (_, k): Drawing => {
  const at = Math.floor((k * shapes.length) / DESIGNS);
  return drawingOf([shapes[at]!, shapes[(at + 1) % shapes.length]!], targetOn(CLOTHS[k % CLOTHS.length]!));
});

/** Whether a rule finds something in the box where it was planted, or anything at all where it is the whole design's. */
function isFound(findings: readonly Finding[], rule: string, box: Planted['box']): boolean {
  const finding = findings.find((f) => f.rule === rule);
  if (finding === undefined || box === undefined) return finding !== undefined;
  const near = (p: { readonly x: number; readonly y: number }): boolean =>
    p.x > box[0]! - NEAR && p.x < box[2]! + NEAR && p.y > box[1]! - NEAR && p.y < box[3]! + NEAR;
  return finding.places.some(near);
}

const NEAR = 2.5;
/** Repairs that put another color on top, or another edge. */
const MEANT = new Set(['mergeable-color', 'detail-under-cover', 'gap-risk', 'thin-satin', 'detail-too-small', 'stitch-budget', 'too-open']);

console.log(`shapes: ${part}`);
const sound = drawings.map((drawing) => auditDesign(sewn(drawing)));
console.table([
  {
    'sound designs': sound.length,
    'with a stop': sound.filter((f) => f.some(({ severity }) => severity === 'stop')).length,
    'with more than one fix': sound.filter((f) => f.filter(({ severity }) => severity === 'fix').length > 1).length,
    'fixes a design': (sound.flat().filter(({ severity }) => severity === 'fix').length / sound.length).toFixed(2),
    'notes a design': (sound.flat().filter(({ severity }) => severity === 'note').length / sound.length).toFixed(2),
  },
]);
if (namesMisses)
  for (const f of sound.flat().filter(({ severity }) => severity !== 'note')) console.log(`sound: ${f.severity} ${f.rule} ${f.message}`);

interface Row {
  planted: number;
  found: number;
}
const table = new Map<string, { drawn: Row; hands: Row }>();
const rowOf = (fault: string): { drawn: Row; hands: Row } => {
  const known = table.get(fault) ?? { drawn: { planted: 0, found: 0 }, hands: { planted: 0, found: 0 } };
  table.set(fault, known);
  return known;
};
let [claimed, gone, stops, changed, plans] = [0, 0, 0, 0, 0];

for (const [rule, plant] of Object.entries(IN_DRAWINGS).filter(([id]) => only === undefined || only === id))
  for (const [k, drawing] of drawings.entries()) {
    const { design, box } = plant(drawing);
    const findings = auditDesign(design);
    const { drawn } = rowOf(rule);
    drawn.planted++;
    if (isFound(findings, rule, box)) drawn.found++;
    else if (namesMisses)
      console.log(`missed: ${rule} in drawing ${k} on ${design.target.fabric.name}: ${findings.map((f) => f.rule).join(', ')}`);
    if (k % 4 !== 0) continue;
    const plan = planOfRepair(design);
    plans++;
    claimed += plan.claimed;
    gone += plan.gone;
    stops += Math.max(0, plan.after.stop - plan.before.stop);
    // Where a repair is meant to be seen, the picture may change.
    if (!plan.steps.some(({ id }) => MEANT.has(id))) changed = Math.max(changed, plan.changed);
  }

const inFiles = IN_FILES.filter(({ rule }) => only === undefined || only === rule);
for (const [{ chance, turn }, fault] of rounds.flatMap((round) => inFiles.map((fault) => [round, fault] as const))) {
  const { rule } = fault;
  for (const [k, { program, name }] of hands.entries()) {
    const planted = plantInFile(program, targetOn(CLOTHS[(k + turn) % CLOTHS.length]!), fault, chance);
    if (planted === undefined) continue;
    const { hands: row } = rowOf(rule);
    row.planted++;
    const findings = auditDesign(planted.design);
    if (isFound(findings, rule, planted.box)) row.found++;
    else if (namesMisses) console.log(`missed: ${rule} of a ${fault.kind} in ${name}: ${findings.map((f) => f.rule).join(', ')}`);
  }
}

const say = ({ planted, found }: Row): string => (planted === 0 ? '' : `${found} of ${planted}`);
console.table(
  [...table].map(([rule, { drawn, hands: other }]) => ({ rule, 'on outside shapes': say(drawn), 'on files of other hands': say(other) })),
);
const sum = (of: 'drawn' | 'hands'): string => {
  const [planted, found] = [...table.values()].reduce(([p, f], row) => [p + row[of].planted, f + row[of].found], [0, 0]);
  return `${((100 * found) / Math.max(1, planted)).toFixed(1)} % of ${planted}`;
};
console.table([
  {
    ...{ 'found on outside shapes': sum('drawn'), 'found on other hands': sum('hands') },
    ...{
      'plans of repair': plans,
      'places repaired': claimed,
      'gone %': ((100 * gone) / Math.max(1, claimed)).toFixed(1),
      'stops added': stops,
    },
    'picture changed, at most %': (100 * changed).toFixed(2),
  },
]);
