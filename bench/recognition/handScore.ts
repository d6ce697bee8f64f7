import { recognizeProgram, type StitchObject } from '@isola/core';
import type { HandObject, HandProgram } from './handSet.ts';
import { type Match, matchObjects, summarize, type Told } from './score.ts';

/** An object of another hand as it is held against what was found. */
interface ToldHand extends Told {
  readonly hand: HandObject;
}

export type HandMatch = Match<ToldHand> & { readonly family: string };

/** A recognized object, with whether it is what it says. */
export interface HandFound {
  readonly program: string;
  readonly object: StitchObject;
  readonly isRight: boolean;
  /** No object is nearest to it: it is a piece of others, or a walk that was taken for a cover. */
  readonly isFalse: boolean;
}

export interface HandScore {
  readonly matches: readonly HandMatch[];
  readonly found: readonly HandFound[];
}

const TOLD_ROLES = new Set(['cover', 'placement', 'tackdown']);

/** Holds what is recognized in programs of other hands against what they are made of: covers, placements and tack-downs. */
export function scoreHands(programs: readonly HandProgram[]): HandScore {
  const matches: HandMatch[] = [];
  const found: HandFound[] = [];
  for (const { name, family, program, objects } of programs) {
    const covers = recognizeProgram(program).objects.filter((o) => TOLD_ROLES.has(o.role));
    const own = matchObjects(name, objects.filter((o) => o.role !== 'travel').map(toldOf), covers);
    matches.push(...own.map((m) => ({ ...m, family })));
    for (const object of covers) {
      const of = own.filter((m) => m.found === object);
      found.push({ program: name, object, isRight: of.some((m) => m.isRight), isFalse: of.length === 0 });
    }
  }
  return { matches, found };
}

function toldOf(hand: HandObject): ToldHand {
  const { kind, kindAny, role, first, last, spacing, angle, outline, holes, underlay } = hand;
  return {
    hand,
    kind,
    ...(kindAny === undefined ? {} : { kinds: kindAny }),
    role,
    first,
    last,
    ...(spacing == null ? {} : { spacing }),
    ...(angle == null ? {} : { angle }),
    rings: kind === 'run' || kind === 'other' || outline == null ? [] : [outline, ...(holes ?? [])].map((ring) => ring.flat()),
    underlay,
  };
}

/** Which manners an object was sewn in, each with the name of its group. */
function mannersOf({ family, drawn: { hand } }: HandMatch): string[] {
  const of = (name: string, value: string | null | undefined): string[] =>
    value === undefined || value === null ? [] : [`${name} ${value}`];
  switch (hand.kind) {
    case 'fill':
      return [
        ...of('fill joined', hand.join),
        ...of('fill shifted', hand.brick),
        ...of('fill grid', hand.grid),
        ...(hand.sections === 1 ? ['fill of one section'] : of('fill sections by', hand.sectionMoves)),
      ];
    case 'satin':
      return [
        ...(hand.split === true ? ['satin split'] : ['satin unsplit']),
        ...(hand.closed === true ? ['satin closed'] : []),
        ...of('satin mode', hand.mode),
        ...of('satin laid', hand.lay),
        ...(['taper', 'tight', 'bar', 'curve'].includes(family) ? [`satin ${family}`] : []),
      ];
    case 'run':
      return hand.role === 'cover' ? of('run', hand.how) : [hand.role];
    case 'other':
      return ['edge stitch'];
  }
}

const percent = (v: number): string => (Number.isNaN(v) ? '' : `${(100 * v).toFixed(1)} %`);

/** A table by kind and by manner, a line each, and what confidence was worth. */
export function sayHands({ matches, found }: HandScore): string[] {
  const groups = new Map<string, HandMatch[]>([['all', [...matches]]]);
  const put = (name: string, match: HandMatch): void => {
    const group = groups.get(name);
    if (group === undefined) groups.set(name, [match]);
    else group.push(match);
  };
  for (const kind of ['fill', 'satin', 'run', 'other'] as const)
    for (const match of matches) if (match.drawn.kind === kind) put(kind === 'other' ? 'edge stitches' : `${kind}s`, match);
  const byManner = matches.flatMap((match) => mannersOf(match).map((manner) => ({ manner, match })));
  for (const { manner, match } of byManner.sort((a, b) => a.manner.localeCompare(b.manner))) put(manner, match);
  const lines = [...groups].map(([name, list]) => {
    const s = summarize(list);
    return [
      name.padEnd(24),
      String(s.objects).padStart(5),
      percent(s.right).padStart(8),
      pair(s.spacingMedian, s.spacing90, percent).padStart(17),
      pair(s.angleMedian, s.angle90, (v) => `${v.toFixed(2)}°`).padStart(16),
      pair(s.outlineMedian, s.outline10, (v) => v.toFixed(3)).padStart(15),
      (s.layers === 0 ? '' : `${percent(s.layersFound)} of ${s.layers}`).padStart(18),
    ].join('  ');
  });
  const kinds = [...new Set(matches.flatMap((m) => m.layers.map((l) => l.kind)))].sort();
  const layers = kinds.map((kind) => {
    const own = matches.flatMap((m) => m.layers.filter((l) => l.kind === kind));
    return `${kind.padEnd(24)}  ${own.length}, found ${percent(own.filter((l) => l.isFound).length / own.length)}`;
  });
  const wrong = found.filter((f) => f.isFalse).length;
  const told = [0, 0.5, 0.6, 0.7, 0.8, 0.9, 0.95].map((from, k, all) => {
    const own = found.filter(({ object: { confidence } }) => confidence >= from && confidence < (all[k + 1] ?? 2));
    const right = own.filter((f) => f.isRight).length;
    return `${from.toFixed(2)} to ${(all[k + 1] ?? 1).toFixed(2)}`.padEnd(24) + `  ${own.length}, right ${percent(right / own.length)}`;
  });
  return [
    'other hands              count     right   pitch off 50/90   angle off 50/90   outline 50/10      layers found',
    ...lines,
    '',
    ...layers,
    '',
    `${wrong} false objects, ${percent(wrong / matches.length)} of ${matches.length}`,
    '',
    'confidence',
    ...told,
  ];
}

function pair(a: number, b: number, say: (v: number) => string): string {
  return Number.isNaN(a) ? '' : `${say(a)} / ${say(b)}`;
}

/** What was missed, a line each. */
export function sayMissed({ matches, found }: HandScore): string[] {
  return [
    ...matches.flatMap((m) => {
      const lost = m.layers.filter((l) => !l.isFound).map((l) => l.kind);
      const off = (m.outline ?? 1) < 0.95 || (m.spacingError ?? 0) > 0.04 || (m.angleError ?? 0) > 3;
      if (m.isRight && lost.length === 0 && !off) return [];
      const { drawn: d, found: f } = m;
      return [
        `${m.program}: ${d.kind} ${d.first}–${d.last} pitch ${d.spacing?.toFixed(2)} angle ${d.angle?.toFixed(0)} [${mannersOf(m).join(', ')}]` +
          (m.isRight && !off
            ? ' right'
            : ` found ${f?.role} ${f?.kind} ${f?.first}–${f?.last} (${m.overlap.toFixed(2)}) pitch ${f?.spacing?.toFixed(2)} angle ${f?.angle?.toFixed(0)} outline ${m.outline?.toFixed(3)} confidence ${f?.confidence.toFixed(2)}`) +
          (lost.length > 0 ? ` lost ${lost.join(', ')}` : ''),
      ];
    }),
    ...found
      .filter((f) => f.isFalse)
      .map(({ program, object: o }) => `${program}: false ${o.kind} ${o.first}–${o.last} confidence ${o.confidence.toFixed(2)}`),
  ];
}
