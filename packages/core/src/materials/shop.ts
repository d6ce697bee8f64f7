import type { Garment, Hoop, Machine, Target } from '../model/target.ts';
import type { ThreadType } from '../model/thread.ts';
import { FABRICS } from './fabrics.ts';

/** Hoops a shop starts with: the field that the needle may reach, in mm. From memory. */
export const HOOPS: readonly Hoop[] = [
  { id: 'round-120', name: 'round 120', width: 106, height: 106 },
  { id: 'round-150', name: 'round 150', width: 136, height: 136 },
  { id: 'cap-frame', name: 'cap frame', width: 180, height: 60 },
  { id: 'tubular-300', name: 'tubular 300 × 300', width: 280, height: 280 },
  { id: 'jacket-back', name: 'jacket back 360 × 400', width: 340, height: 380 },
];

/** Places on garments with the largest design they take, in mm. From memory. */
export const GARMENTS: readonly Garment[] = [
  { id: 'left-chest', name: 'left chest', width: 100, height: 100, hoopId: 'round-120' },
  { id: 'pocket', name: 'pocket', width: 90, height: 60, hoopId: 'round-120' },
  { id: 'cap-front', name: 'cap front', width: 120, height: 55, hoopId: 'cap-frame' },
  { id: 'sleeve', name: 'sleeve', width: 90, height: 60, hoopId: 'round-120' },
  { id: 'full-back', name: 'full back', width: 280, height: 320, hoopId: 'jacket-back' },
  { id: 'yoke', name: 'yoke', width: 250, height: 60, hoopId: 'tubular-300' },
  { id: 'tote-panel', name: 'tote panel', width: 240, height: 240, hoopId: 'tubular-300' },
  { id: 'robe-chest', name: 'robe chest', width: 110, height: 110, hoopId: 'round-150' },
  { id: 'cuff', name: 'cuff', width: 60, height: 40, hoopId: 'round-120' },
];

/** Threads a shop starts with. Needles are common practice: 75 for 40, 90 for 30, 100 to 110 for 12. */
export const THREADS: readonly ThreadType[] = [
  { id: 'rayon-40', name: '40-weight rayon', weight: 40, fiber: 'rayon', needle: 75, coneMetres: 5000 },
  { id: 'polyester-40', name: '40-weight polyester', weight: 40, fiber: 'polyester', needle: 75, coneMetres: 5000 },
  { id: 'polyester-60', name: '60-weight polyester', weight: 60, fiber: 'polyester', needle: 65, coneMetres: 5000 },
  { id: 'rayon-30', name: '30-weight rayon', weight: 30, fiber: 'rayon', needle: 90, coneMetres: 2500 },
  { id: 'cotton-12', name: '12-weight cotton', weight: 12, fiber: 'cotton', needle: 110, coneMetres: 1000 },
];

/** How many stitches at top speed a trim costs. Common practice, no source. */
export const STITCHES_PER_TRIM = 120;

/** Machines a shop starts with. */
export const MACHINES: readonly Machine[] = [
  machine('single-9', '1 head, 9 needles', 1, 9, 850),
  machine('six-12', '6 heads, 12 needles', 6, 12, 900),
];

/** What a file is judged for until someone says otherwise: the first of each list, on a pique polo's left chest. */
export function defaultTarget(): Target {
  const fabric = FABRICS.find((f) => f.id === 'pique-polo')!;
  const garment = GARMENTS[0]!;
  return {
    fabric,
    clothColor: fabric.color,
    garment,
    hoop: HOOPS.find((h) => h.id === garment.hoopId)!,
    thread: THREADS[0]!,
    machine: MACHINES[0]!,
    quantity: 1,
    goal: 'fastest',
  };
}

function machine(id: string, name: string, heads: number, needles: number, topSpeed: number): Machine {
  return {
    id,
    name,
    heads,
    needles,
    topSpeed,
    startSpeed: 300,
    maxStitch: 12.1,
    trimCycle: (STITCHES_PER_TRIM * 60) / topSpeed,
    colorChange: 8,
    stop: 20,
    moveSettle: 0.3,
    moveSpeed: 120,
  };
}
