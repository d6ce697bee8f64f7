import { ACROSS, ALONG, OWN, type ThreadLook, TWIST } from './raster.ts';

/** How much lighter or darker thread looks by the way it runs, in steps of a palette. */
const SHEEN = 31;
/** Thread that runs like this to the light, 0 along it to 1 across it, has its own color. */
const EVEN = 0.55;
/** Darkest at the edge, lightest in the light: steps of a palette. */
const EDGE = 46;
const GLEAM = 46;
/** Thinner than this many pixels, a thread has no edge of its own. */
const HAS_EDGE = 1.5;
/** Gleam lies on the upper half of a stitch, around this share of it from its upper end: it is what makes a satin look like satin. */
const GLEAM_AT = 0.32;
const GLEAM_LENGTH = 0.2;
/** Thread as thick as this (px) shows its plies, so many mm from one to the next. Two plies and some 700 turns a metre: from memory. */
const SHOWS_PLIES = 8;
const PLY = 0.7;
const PLY_DEPTH = 16;
/** Breadth of the groove between two plies, as a share of the way from one to the next. */
const GROOVE = 0.12;

/** The palette of a thread: 256 colors from black through its own at `OWN` to white, as pixels. */
export function paletteOf(color: string): Int32Array {
  const n = parseInt(color.slice(1), 16);
  const own = [n >> 16, (n >> 8) & 255, n & 255];
  return Int32Array.from({ length: 256 }, (_, k) => {
    const share = (k - OWN) / 128;
    const [r, g, b] = own.map((v) => Math.round(share < 0 ? v * (1 + share) : v + (255 - v) * share)) as [number, number, number];
    return (0xff << 24) | (b << 16) | (g << 8) | r;
  });
}

/** The step of a stitch by its direction (px): thread that runs across the light shines. */
export function stepOf(dx: number, dy: number, lightX: number, lightY: number): number {
  const length = Math.sqrt(dx * dx + dy * dy);
  const across = length > 0 ? Math.abs(dx * lightY - dy * lightX) / length : EVEN;
  return OWN + Math.round((across - EVEN) * SHEEN);
}

/** No two stitches catch the light alike: by so many steps of a palette, more or less. */
const GLITTER = 5;

/** How much lighter or darker than others of its direction a stitch is that ends at a place (mm): by its place alone, so that it stays as it is. */
export function glitterOf(x: number, y: number): number {
  const mixed = Math.imul(Math.round(x * 50) ^ Math.imul(Math.round(y * 50), 0x9e3779b1), 0x85ebca6b);
  return ((mixed >>> 16) % (2 * GLITTER + 1)) - GLITTER;
}

/** How round thread looks that is painted `width` px wide on a cloth of `scale` px a mm. */
export function lookOf(width: number, scale: number): ThreadLook {
  const half = width / 2;
  // On thin thread a full dark edge would draw seams where one stitch lies on the next.
  const edge = width < HAS_EDGE ? 0 : EDGE * clamp((width - 0.8) / 2.6, 0.25, 1);
  const gleam = GLEAM * clamp((width - 1.2) / 1.8, 0, 1);
  const profile = new Int8Array(ACROSS * ALONG);
  for (let a = 0; a < ACROSS; a++) {
    const q = (2 * (a + 0.5)) / ACROSS - 1;
    // The side away from the light falls into shade sooner.
    const rim = clamp((Math.abs(q) - (q < 0 ? 0.35 : 0.6)) / (q < 0 ? 0.65 : 0.4), 0, 1);
    const shine = Math.exp(-(((q - 0.15) / 0.34) ** 2));
    for (let l = 0; l < ALONG; l++) {
      const lit = Math.exp(-((((l + 0.5) / ALONG - GLEAM_AT) / GLEAM_LENGTH) ** 2));
      profile[a * ALONG + l] = Math.round(-edge * rim * rim + gleam * shine * lit);
    }
  }
  const depth = PLY_DEPTH * clamp((width - SHOWS_PLIES) / 10, 0, 1);
  if (depth === 0) return { half, profile, twist: undefined, ply: 1 };
  const twist = new Int8Array(TWIST * ACROSS);
  for (let p = 0; p < TWIST; p++)
    for (let a = 0; a < ACROSS; a++) {
      // The groove between two plies winds around the thread: seen from above it goes from one side to the other in half a turn.
      const angle = Math.asin((2 * (a + 0.5)) / ACROSS - 1);
      const phase = (p / TWIST + angle / Math.PI + 1) % 1;
      twist[p * ACROSS + a] = -Math.round(depth * Math.exp(-((Math.min(phase, 1 - phase) / GROOVE) ** 2)));
    }
  return { half, profile, twist, ply: PLY * scale };
}

function clamp(v: number, low: number, high: number): number {
  return Math.min(high, Math.max(low, v));
}
