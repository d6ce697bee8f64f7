import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { containsPoint, flattenPath, lengthOfPath, resamplePath, signedArea } from '@isola/core';
import * as icons from '@mdi/js';
import opentype from 'opentype.js';
import { feature } from 'topojson-client';
import type { GeometryCollection, Topology } from 'topojson-specification';

/**
 * Shapes of `tune` may be looked at while what is scored is worked on; `more` are as many again and more to look at. Those of `aside` are for reports between rounds
 * of work; those of `unseen`, from a font, icons and borders that none of the others are from, for one report at the end of it.
 */
export const PARTS = ['tune', 'aside', 'more', 'unseen'] as const;
export type Part = (typeof PARTS)[number];

/** The part of the shapes that a score is asked for, and whether it is to name what it misses: of shapes that may be looked at only. */
export function readArguments([part = 'aside', detail]: readonly string[]): { readonly part: Part; readonly namesMisses: boolean } {
  const known = PARTS.find((p) => p === part);
  if (known === undefined) throw new Error(`score takes ${PARTS.join(', ')}, got ${part}`);
  return { part: known, namesMisses: detail === 'misses' && (known === 'tune' || known === 'more') };
}

/** What nobody here drew, and where it is from: areas, each an outline and the holes in it (rings xyxy, mm, y up). */
export interface Shape {
  readonly name: string;
  readonly part: Part;
  readonly areas: readonly (readonly Float64Array[])[];
}

const require = createRequire(import.meta.url);

/**
 * Letters of openly licensed fonts (IBM Plex Sans and Serif, SIL Open Font License), an open icon set (Material Design Icons, Apache 2.0), lands and
 * countries (Natural Earth, public domain).
 */
export function readShapes(): Shape[] {
  const isDrawn = (shape: Drawn): boolean => shape.areas.length > 0;
  const first = [...readGlyphs('letter', SANS, LETTERS), ...readIcons(words(ICONS)), ...readLands(2, 32)].filter(isDrawn);
  const more = [...readGlyphs('letter', SANS, MORE_LETTERS), ...readIcons(words(MORE_ICONS)), ...readLands(32, 92)].filter(isDrawn);
  const unseen = [...readGlyphs('serif', SERIF, UNSEEN_LETTERS), ...readIcons(unseenIcons()), ...readCountries(UNSEEN_COUNTRIES)].filter(
    isDrawn,
  );
  return [
    ...first.map((shape, index) => ({ ...shape, part: index % 2 === 0 ? ('tune' as const) : ('aside' as const) })),
    ...more.map((shape) => ({ ...shape, part: 'more' as const })),
    ...unseen.map((shape) => ({ ...shape, part: 'unseen' as const })),
  ];
}

const SANS = '@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-600-normal.woff';
const SERIF = '@fontsource/ibm-plex-serif/files/ibm-plex-serif-latin-700-normal.woff';
const LETTERS = 'ABCDEGHKMOPQRSTWXZabdeghkmnpqrsty2345689&';
const MORE_LETTERS = 'FIJLNUVYcfijlouvwxz01$7@#%?!';
const ICONS = `
  Anchor Bell Bird Bone Butterfly Cactus Cat ChessKnight Cloud Clover Crown Duck Elephant Feather Fire Fish Flower GuitarAcoustic Heart Key
  Kite Leaf MoonWaningCrescent PineTree Puzzle Rabbit Rocket Shark Star TeddyBear Tree Umbrella
`;
const MORE_ICONS = `
  Airplane Apple Bat Beaker Bee Bike Boomerang Bottle Bowl Bug Bull Bus Cake Camel Candle Carrot Castle Chair Cherry Church Coffee Corn Cow
  Crab Cup Diamond Dog Dolphin Donkey Drum Egg Flag Food Ghost Glass Guitar Hammer Hand HatFedora Home Horse Hummingbird IceCream Island
  Jellyfish Kangaroo Ladybug Lighthouse Mushroom Owl Palm Paw Penguin Pig Pizza Pumpkin Rodent Sheep Ship Snail Snake Snowman Spider Sprout
  Sword Tortoise Trumpet Turkey Turtle Unicorn Violin Wizard Wrench Shield Ribbon Trophy Medal Car Truck Sailing Balloon Peanut FishOff
  FlowerTulip FlowerPoppy Octagon Pentagon
`;

// None of these was chosen by what it looks like: every second sign, every so many icons and countries, the largest of these first.
const UNSEEN_LETTERS = 'ACEGIKMOQSUWYacegikmoqsuwy13579&';
const EVERY_ICON = 130;
const UNSEEN_COUNTRIES = { from: 4, every: 4, count: 32 };

type Drawn = Omit<Shape, 'part'>;

function words(text: string): string[] {
  return text.trim().split(/\s+/);
}

function readGlyphs(name: string, file: string, letters: string): Drawn[] {
  const bytes = readFileSync(require.resolve(file));
  const font = opentype.parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
  return [...letters].map((letter) => ({
    name: `${name} ${letter}`,
    areas: fit(flatten(font.getPath(letter, 0, 0, 100).toPathData(3)), 26),
  }));
}

const allIcons = icons as unknown as Readonly<Record<string, string>>;

function readIcons(names: readonly string[]): Drawn[] {
  return names.flatMap((name) =>
    `mdi${name}` in allIcons ? [{ name: name.toLowerCase(), areas: fit(flatten(allIcons[`mdi${name}`]!), 34) }] : [],
  );
}

/** Every so many icons, but outlines of others, which are lines rather than areas. */
function unseenIcons(): string[] {
  const known = new Set([...words(ICONS), ...words(MORE_ICONS)]);
  return Object.keys(allIcons)
    .map((name) => name.slice(3))
    .filter((name) => !name.includes('Outline') && !known.has(name))
    .sort()
    .filter((_, k) => k % EVERY_ICON === EVERY_ICON - 1);
}

/** Lands from the `from`-th largest on, each one ring without its lakes. */
function readLands(from: number, to: number): Drawn[] {
  const lands = readMap('land').flat();
  const bySize = lands.sort(largerFirst);
  return bySize.slice(from, to).map((ring, k) => ({ name: `land ${k + from + 1}`, areas: fit([ring], 45) }));
}

/** Every so many countries by size, each its largest part, with borders and coasts. */
function readCountries({ from, every, count }: typeof UNSEEN_COUNTRIES): Drawn[] {
  const parts = readMap('countries').flatMap((rings) => (rings.length === 0 ? [] : [rings.sort(largerFirst)[0]!]));
  const bySize = parts.sort(largerFirst);
  return Array.from({ length: count }, (_, k) => bySize[from + k * every])
    .filter((ring) => ring !== undefined)
    .map((ring, k) => ({ name: `country ${from + k * every + 1}`, areas: fit([ring], 45) }));
}

function largerFirst(a: Float64Array, b: Float64Array): number {
  return Math.abs(signedArea(b)) - Math.abs(signedArea(a));
}

/** The outer rings of each of a map's features but those on the date line (xyxy, degrees). */
function readMap(kind: 'land' | 'countries'): Float64Array[][] {
  const world = JSON.parse(readFileSync(require.resolve(`world-atlas/${kind}-50m.json`), 'utf8')) as Topology;
  const { features } = feature(world, world.objects[kind] as GeometryCollection);
  return features.map(({ geometry }) => {
    const polygons = geometry.type === 'MultiPolygon' ? geometry.coordinates : geometry.type === 'Polygon' ? [geometry.coordinates] : [];
    return polygons
      .map((polygon) => Float64Array.from(polygon[0]!.slice(0, -1).flatMap(([x, y]) => [x!, y!])))
      .filter((ring) => !ring.some((v, k) => k % 2 === 0 && Math.abs(v) > 179.5));
  });
}

function flatten(data: string): Float64Array[] {
  const flat = flattenPath(data, 'scale(1 -1)', 1, 0.3);
  if (!flat.ok) throw new Error(flat.error.found);
  return flat.value.map((ring) => {
    const closed = Float64Array.from(ring);
    const n = closed.length;
    return n > 4 && closed[0] === closed[n - 2] && closed[1] === closed[n - 1] ? closed.subarray(0, n - 2) : closed;
  });
}

/** Rings scaled so that the longer side is `size` mm, centred, with points 0.3 mm to 1 mm apart and scraps left out. */
function fit(rings: readonly Float64Array[], size: number): Float64Array[][] {
  const xs = rings.flatMap((r) => Array.from(r).filter((_, k) => k % 2 === 0));
  const ys = rings.flatMap((r) => Array.from(r).filter((_, k) => k % 2 === 1));
  const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = size / Math.max(maxX - minX, maxY - minY);
  const fitted = rings
    .map((ring) => ring.map((v, k) => (k % 2 === 0 ? (v - (minX + maxX) / 2) * scale : (v - (minY + maxY) / 2) * scale)))
    .filter((ring) => Math.abs(signedArea(ring)) > 9)
    .map((ring) => {
      const closed = Float64Array.from([...ring, ring[0]!, ring[1]!]);
      return resamplePath(closed, Math.max(12, Math.round(lengthOfPath(closed) / 0.4))).slice(0, -2);
    });
  return partAreas(fitted);
}

/** Rings as areas that hang together: each outline with the holes that lie right inside it. */
function partAreas(rings: readonly Float64Array[]): Float64Array[][] {
  const depth = (ring: Float64Array): number => rings.filter((r) => r !== ring && containsPoint([r], ring[0]!, ring[1]!)).length;
  const outlines = rings.filter((r) => depth(r) % 2 === 0);
  return outlines.map((outline) => [
    outline,
    ...rings.filter((r) => depth(r) === depth(outline) + 1 && containsPoint([outline], r[0]!, r[1]!)),
  ]);
}
