import { defaultTarget, FABRICS, GARMENTS, HOOPS, type Program, type Target, THREADS } from '@isola/core';
import type { DrawnObject, Sewing } from './Sewing.ts';
import { drawBirch } from './drawings/birch.ts';
import { drawChainring } from './drawings/chainring.ts';
import { drawFobs } from './drawings/fobs.ts';
import { drawHeron } from './drawings/heron.ts';
import { drawKettle } from './drawings/kettle.ts';
import { drawLantern } from './drawings/lantern.ts';
import { drawPears } from './drawings/pears.ts';
import { drawWhisk } from './drawings/whisk.ts';

/** A job of the made-up Tidewater Stitch Room. `dueInDays` counts from the day the demo is laid out. */
export interface DemoJob {
  readonly file: string;
  readonly name: string;
  readonly customer: string;
  readonly dueInDays: number;
  readonly target: Target;
  readonly draw: () => { readonly program: Program; readonly objects: readonly DrawnObject[] };
}

export const DEMO_JOBS: readonly DemoJob[] = [
  job(
    'heron',
    'Heron crest, left chest',
    'Marsh Gate Rowing Club',
    2,
    'pique-polo',
    '#24405c',
    'left-chest',
    'rayon-40',
    240,
    'fastest',
    drawHeron,
  ),
  job(
    'chainring',
    'Chainring, full back',
    'Slow Hill Cycle Works',
    4,
    'softshell',
    '#2f363d',
    'full-back',
    'polyester-40',
    36,
    'softest',
    drawChainring,
  ),
  job('whisk', 'Whisk and wheat, apron', 'Two Ovens Bakery', 6, 'canvas', '#ddd2ba', 'tote-panel', 'rayon-30', 60, 'cleanest', drawWhisk),
  job(
    'kettle',
    'Kettle, cap front',
    'Far Meadow Campground',
    7,
    'cap-front',
    '#b9ac8c',
    'cap-front',
    'polyester-40',
    150,
    'fastest',
    drawKettle,
  ),
  job('birch', 'Birch branch, robe', 'Warm Stones Sauna', 9, 'terry', '#efe9dc', 'robe-chest', 'rayon-40', 48, 'cleanest', drawBirch),
  job(
    'lantern',
    'Lantern, blanket corner',
    'Hill Lane School',
    12,
    'fleece',
    '#3d4f63',
    'robe-chest',
    'polyester-40',
    420,
    'fastest',
    drawLantern,
  ),
  job('pears', 'Three pears, tote', 'Low Wall Nursery', 14, 'canvas', '#d8cdb4', 'tote-panel', 'rayon-40', 40, 'cleanest', drawPears),
  job('fobs', 'Key fobs, nine up', 'Quay House Hostel', 16, 'felt', '#8b9aa0', 'tote-panel', 'polyester-40', 30, 'fastest', drawFobs),
];

function job(
  file: string,
  name: string,
  customer: string,
  dueInDays: number,
  fabricId: string,
  clothColor: string,
  garmentId: string,
  threadId: string,
  quantity: number,
  goal: Target['goal'],
  draw: () => Sewing,
): DemoJob {
  const fabric = FABRICS.find((f) => f.id === fabricId)!;
  const garment = GARMENTS.find((g) => g.id === garmentId)!;
  const hoop = HOOPS.find((h) => h.id === garment.hoopId)!;
  const thread = THREADS.find((t) => t.id === threadId)!;
  return {
    file,
    name,
    customer,
    dueInDays,
    draw: () => {
      const sewing = draw();
      return { program: sewing.finish(), objects: sewing.drawn };
    },
    target: { ...defaultTarget(), fabric, clothColor, garment, hoop, thread, quantity, goal },
  };
}
