import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { containsPoint, flattenPath, lengthOfPath, resamplePath, signedArea } from '@isola/core';
import * as icons from '@mdi/js';
import opentype from 'opentype.js';
import { feature } from 'topojson-client';
import type { GeometryCollection, Topology } from 'topojson-specification';

/** Shapes of `tune` may be looked at while what is scored is worked on, those of `aside` only to report; `more` are as many again as both to look at. */
export type Part = 'tune' | 'aside' | 'more';

/** What nobody here drew, and where it is from: areas, each an outline and the holes in it (rings xyxy, mm, y up). */
export interface Shape {
  readonly name: string;
  readonly part: Part;
  readonly areas: readonly (readonly Float64Array[])[];
}

const require = createRequire(import.meta.url);

/** Letters of an openly licensed font (IBM Plex Sans, SIL Open Font License), an open icon set (Material Design Icons, Apache 2.0) and lands (Natural Earth, public domain). */
export function readShapes(): Shape[] {
  const first = [...readGlyphs(LETTERS), ...readIcons(ICONS), ...readLands(2, 32)].filter((shape) => shape.areas.length > 0);
  const more = [...readGlyphs(MORE_LETTERS), ...readIcons(MORE_ICONS), ...readLands(32, 92)].filter((shape) => shape.areas.length > 0);
  return [
    ...first.map((shape, index) => ({ ...shape, part: index % 2 === 0 ? ('tune' as const) : ('aside' as const) })),
    ...more.map((shape) => ({ ...shape, part: 'more' as const })),
  ];
}

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

type Drawn = Omit<Shape, 'part'>;

function readGlyphs(letters: string): Drawn[] {
  const bytes = readFileSync(require.resolve('@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-600-normal.woff'));
  const font = opentype.parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
  return [...letters].map((letter) => ({
    name: `letter ${letter}`,
    areas: fit(flatten(font.getPath(letter, 0, 0, 100).toPathData(3)), 26),
  }));
}

function readIcons(names: string): Drawn[] {
  const all = icons as unknown as Readonly<Record<string, string>>;
  return names
    .trim()
    .split(/\s+/)
    .flatMap((name) => (`mdi${name}` in all ? [{ name: name.toLowerCase(), areas: fit(flatten(all[`mdi${name}`]!), 34) }] : []));
}

/** Lands from the `from`-th largest on, each one ring without its lakes. */
function readLands(from: number, to: number): Drawn[] {
  const world = JSON.parse(readFileSync(require.resolve('world-atlas/land-50m.json'), 'utf8')) as Topology;
  const land = feature(world, world.objects.land as GeometryCollection);
  const rings = land.features.flatMap((f) =>
    f.geometry.type === 'MultiPolygon' ? f.geometry.coordinates.map((polygon) => polygon[0]!) : [],
  );
  const open = rings
    .map((ring) => Float64Array.from(ring.slice(0, -1).flatMap(([x, y]) => [x!, y!])))
    .filter((ring) => !ring.some((v, k) => k % 2 === 0 && Math.abs(v) > 179.5))
    .sort((a, b) => Math.abs(signedArea(b)) - Math.abs(signedArea(a)));
  return open.slice(from, to).map((ring, k) => ({ name: `land ${k + from + 1}`, areas: fit([ring], 45) }));
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
