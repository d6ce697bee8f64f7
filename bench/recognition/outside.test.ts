import { beforeAll, describe, expect, test } from '@jest/globals';
import { containsPoint, generateObject, offsetRings, recognizeProgram, signedArea, USUAL_SPEC } from '@isola/core';
import { pitchBetweenWays, pitchTowardEdge } from '../generators/wayPitch.ts';
import { scoreHands } from './handScore.ts';
import { readHand } from './handSet.ts';
import { scorePatterns } from './patternScore.ts';
import { PATTERNS, sewPatterns } from './patternSet.ts';
import { scoreProgram, summarize } from './score.ts';
import { readShapes, type Shape } from './shapes.ts';
import { type KnownProgram, seededChance, stitchShape } from './stitchSet.ts';
import { IS_GUARD, triesOf } from '../../packages/core/src/testing/runs.ts';

// A few of the shapes that nobody here drew, as a guard between runs of the whole score (npm run score): letters of IBM Plex Sans (SIL Open
// Font License), icons of Material Design Icons (Apache 2.0), a land of Natural Earth (public domain).
const NAMES = IS_GUARD ? ['letter O', 'letter R', 'letter S', 'heart', 'fish', 'land 9'] : ['letter R', 'fish', 'land 9'];

// Their rows branch, so that some sections have a few rows only.
const BRANCHED = ['letter M', 'letter R', 'rabbit'];

const PATTERN_NAMES = IS_GUARD ? ['heart', 'cloud', 'puzzle'] : ['cloud'];
const ROUNDS = triesOf(3);

let shapes: Shape[] = [];
let programs: KnownProgram[] = [];
beforeAll(() => {
  shapes = readShapes();
  programs = shapes
    .filter((s) => NAMES.includes(s.name))
    .flatMap((shape, k) => Array.from({ length: ROUNDS }, (_, round) => stitchShape(shape, 7000 + 100 * k + round)));
});

describe('outside shapes', () => {
  test('are areas with their holes: outlines around, holes inside, none crossing into another', () => {
    expect(shapes.length).toBeGreaterThan(80);
    for (const { name, areas } of shapes) {
      for (const [outline, ...holes] of areas) {
        expect({ name, isArea: Math.abs(signedArea(outline!)) > 8.5 }).toEqual({ name, isArea: true });
        for (const hole of holes) expect(containsPoint([outline!], hole[0]!, hole[1]!)).toBe(true);
      }
    }
    const letter = shapes.find((s) => s.name === 'letter B')!;
    expect(letter.areas.map((a) => a.length)).toEqual([3]);
  });

  test('stitched in manners drawn by chance, scaled, turned, mirrored, rounded and jittered, are recognized as what they are', () => {
    expect(programs).toHaveLength(ROUNDS * NAMES.length);
    const s = summarize(programs.flatMap(scoreProgram));
    expect(s.objects).toBeGreaterThanOrEqual(6 * programs.length);
    expect(s.right).toBeGreaterThanOrEqual(0.95);
    expect(s.spacingMedian).toBeLessThan(0.03);
    expect(s.angleMedian).toBeLessThan(2);
    expect(s.outlineMedian).toBeGreaterThan(0.97);
    expect(s.layersFound).toBeGreaterThanOrEqual(0.9);
  });

  // A few of the programs of other hands that are worked on: fills joined by slants and along the edge, split and tight columns, runs, edge stitches.
  test('programs of other hands are recognized as what they are, and confidence is worth what it says', () => {
    const names = '001-anchor 002-lighthouse 008-wharf 009-shell 012-cottage 015-nest 036-meadow 041-village 071-palm-tree'.split(' ');
    const { matches, found } = scoreHands(names.map((name) => readHand(name, 'work')));
    const s = summarize(matches);
    expect(s.objects).toBeGreaterThanOrEqual(60);
    expect(s.right).toBeGreaterThanOrEqual(0.95);
    expect(s.spacingMedian).toBeLessThan(0.03);
    expect(s.angleMedian).toBeLessThan(2);
    expect(s.outlineMedian).toBeGreaterThan(0.97);
    expect(s.layersFound).toBeGreaterThanOrEqual(0.9);
    for (const join of ['edge', 'zigzag', 'vee']) {
      const joined = matches.filter((m) => m.drawn.hand.join === join);
      expect(joined.length).toBeGreaterThan(2);
      expect({ join, missed: joined.filter((m) => !m.isRight).map((m) => m.program) }).toEqual({ join, missed: [] });
    }
    expect(found.filter((f) => f.isFalse).length).toBeLessThan(0.05 * s.objects);
    const sure = found.filter((f) => f.object.confidence >= 0.95);
    expect(sure.filter((f) => f.isRight).length).toBeGreaterThanOrEqual(0.95 * sure.length);
  });

  test('outlines hold the ends of all rows, those of the few between two walks as well', () => {
    const outside: Record<string, number> = {};
    shapes.forEach((shape, index) => {
      if (shape.part !== 'tune' || !BRANCHED.includes(shape.name)) return;
      const { program } = stitchShape(shape, index * 1000 + 1);
      const fill = recognizeProgram(program).objects.reduce((a, b) => (b.kind === 'fill' && b.stitches > a.stitches ? b : a));
      const around = offsetRings([fill.outline, ...fill.holes], 0.35);
      let out = 0;
      for (const { first, last } of fill.spans)
        for (let i = first; i <= last; i++) if (!containsPoint(around, program.x[i]!, program.y[i]!)) out++;
      outside[shape.name] = out / fill.stitches;
    });
    expect(Object.keys(outside)).toEqual(BRANCHED);
    expect(Object.entries(outside).filter(([, share]) => share > 0.015)).toEqual([]);
  });

  test('contours, meanders, edge stitches, marks and appliques of them are called what they are, with the underlay they lie on', () => {
    const known = shapes.filter((s) => PATTERN_NAMES.includes(s.name)).map((shape, k) => sewPatterns(shape, 9000 + 100 * k));
    const matches = known.flatMap(scorePatterns);
    for (const name of PATTERNS) {
      const own = matches.filter((m) => m.name === name);
      expect({ name, count: own.length }).toEqual({ name, count: PATTERN_NAMES.length });
      expect({ name, wrong: own.filter((m) => !m.isRight).map((m) => `${m.program}: ${m.found}`) }).toEqual({ name, wrong: [] });
    }
    const layers = matches.flatMap((m) => m.layers);
    expect(layers.length).toBeGreaterThan(0);
    expect(layers.filter((l) => !l.isFound)).toEqual([]);
    expect(matches.filter((m) => m.spacingError !== undefined && m.spacingError > 0.12)).toEqual([]);
    // What is called something else is told from what is right.
    const [first] = known;
    const swapped = { ...first!, names: first!.names.map((n) => (n === 'contour' ? 'meander' : n === 'meander' ? 'contour' : n)) };
    expect(
      scorePatterns(swapped)
        .filter((m) => !m.isRight)
        .map((m) => m.name),
    ).toEqual(['meander', 'contour']);
  });

  test('a meander that begins amid a piece with its underlay is found whole, with what lies under it', () => {
    const index = shapes.findIndex((s) => s.name === 'umbrella');
    const known = sewPatterns(shapes[index]!, index * 1000 + 502);
    expect(known.objects[known.names.indexOf('meander')]!.underlay.map((layer) => layer.kind)).toEqual(['edge-run']);
    const meander = scorePatterns(known).find((m) => m.name === 'meander')!;
    expect(meander).toMatchObject({ isRight: true, layers: [{ kind: 'edge-run', isFound: true }] });
  });

  test('drawn objects lie in order in their programs, and underlay before its cover', () => {
    for (const { objects, program } of programs) {
      let last = -1;
      for (const object of objects) {
        for (const layer of object.underlay) {
          expect(layer.first).toBeGreaterThan(last);
          last = layer.last;
        }
        expect(object.first).toBeGreaterThan(last);
        last = object.last;
      }
      expect(last).toBeLessThan(program.rowCount);
    }
  });

  test('the same stitches give the same objects, and chance from one seed is the same chance', () => {
    const { program } = programs[0]!;
    expect(recognizeProgram(program)).toEqual(recognizeProgram(program));
    const [a, b] = [seededChance(5), seededChance(5)];
    expect(Array.from({ length: 50 }, a)).toEqual(Array.from({ length: 50 }, b));
  });

  test('a score tells a wrong kind, lost rows and lost underlay', () => {
    const known = programs.find((p) => p.objects.some((o) => o.underlay.length > 0))!;
    const wrong = known.objects.map((o) => ({ ...o, kind: o.kind === 'run' ? ('satin' as const) : ('run' as const) }));
    expect(summarize(scoreProgram({ ...known, objects: wrong })).right).toBe(0);
    const moved = known.objects.map((o) => ({ ...o, last: o.last + 4 * (o.last - o.first + 1) }));
    expect(summarize(scoreProgram({ ...known, objects: moved })).right).toBe(0);
    const other = known.objects.map((o) => ({
      ...o,
      underlay: o.underlay.map((u) => ({ ...u, kind: u.kind === 'zigzag' ? ('tatami' as const) : ('zigzag' as const) })),
    }));
    expect(summarize(scoreProgram({ ...known, objects: other })).layersFound).toBe(0);
  });

  test('filled with contours and meanders have no penetration outside, and ways as far apart as asked', () => {
    // Lands with bays that one ring of a contour ends on either side of.
    for (const [name, spacing] of [
      ['land 36', 1.7013743356335909],
      ['land 44', 1.5577509470283986],
      ['heart', 1.1],
    ] as const) {
      const [rings] = shapes.find((s) => s.name === name)!.areas;
      const around = offsetRings(rings!, 0.3);
      for (const kind of ['contour', 'meander'] as const) {
        const made = generateObject(
          { kind: 'area', rings: rings!.map((ring) => [...ring]) },
          { ...USUAL_SPEC, kind, spacing, stitchLength: 2.5 },
        );
        if (!made.ok) throw new Error(made.error);
        const paths = made.value.parts.map(({ points }) => points);
        for (const path of paths) for (let k = 0; k < path.length; k += 2) expect(containsPoint(around, path[k]!, path[k + 1]!)).toBe(true);
        expect(made.value.parts.filter(({ isApart }) => isApart).length).toBeLessThanOrEqual(1);
        const pitch = kind === 'contour' ? pitchTowardEdge(paths, rings!, spacing) : pitchBetweenWays(paths, spacing);
        expect(Math.abs(pitch / spacing - 1)).toBeLessThan(0.03);
      }
    }
    // Three lines 1.3 mm apart, one of them elsewhere than the others look: the nearest beside each counts, the one across does not.
    const line = (y: number): Float64Array => Float64Array.from({ length: 22 }, (_, k) => (k % 2 === 0 ? k : y));
    const across = Float64Array.of(30, -5, 30, 0, 30, 5);
    expect(pitchBetweenWays([line(0), line(1.3), line(2.6), across], 1)).toBeCloseTo(1.3, 9);
    expect(pitchBetweenWays([line(0), across], 1)).toBeNaN();
    // Circles 1.5 mm apart, the first of them 0.75 mm inside the edge, the last 0.4 mm from itself across the middle; in 40 sides, 0.012 mm off at most.
    const circle = (radius: number): Float64Array =>
      Float64Array.from(
        { length: 82 },
        (_, k) => radius * (k % 2 === 0 ? Math.cos((k * Math.PI) / 40) : Math.sin(((k - 1) * Math.PI) / 40)),
      );
    const edge = circle(3.95).slice(0, -2);
    expect(Math.abs(pitchTowardEdge([3.2, 1.7, 0.2].map(circle), [edge], 1) - 1.5)).toBeLessThan(0.03);
    expect(Math.abs(pitchTowardEdge([circle(3.2)], [edge], 1) - 1.5)).toBeLessThan(0.03);
    expect(Math.abs(pitchTowardEdge([circle(2.95)], [edge], 1) - 2)).toBeLessThan(0.03);
  });
});
