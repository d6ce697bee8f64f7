import { countProgram } from '../measure/counts.ts';
import type { Program } from '../model/program.ts';
import { splitIntoStretches } from '../model/stretches.ts';
import type { StretchSteps } from './cut/cutPieces.ts';
import { recognizeProgram } from './recognizeProgram.ts';
import type { StitchObject } from '../model/stitchObject.ts';

/** A picture of one step of recognition. */
export interface StepPicture {
  readonly name: string;
  readonly title: string;
  readonly svg: string;
}

/** Line colors of the pictures: of neighbours in a row, of explanations, of kinds, of roles. They mean nothing elsewhere. */
const IN_TURN = ['#0f5c66', '#c9762b', '#6a4c93', '#3a7d44', '#b0322a', '#55697a'];
const LABEL_COLORS = { rows: '#0f5c66', run: '#c9762b', other: '#b0322a' } as const;
const KIND_COLORS = { fill: '#0f5c66', satin: '#6a4c93', run: '#c9762b', other: '#b0322a' } as const;
const ROLE_COLORS = {
  cover: '#9db4b6',
  underlay: '#c9762b',
  travel: '#b0322a',
  tie: '#14262b',
  placement: '#6a4c93',
  tackdown: '#3a7d44',
} as const;
const MARGIN = 2;

/** Pictures of what recognition sees on its way through a program, in order, as SVG in mm. */
export function drawSteps(program: Program): StepPicture[] {
  const steps: StretchSteps[] = [];
  const { objects } = recognizeProgram(program, { watch: (_, step) => steps.push(step) });
  const stretches = splitIntoStretches(program);
  const way = (first: number, last: number): string => pathOf(program, first, last);

  const parts: Record<string, [title: string, body: string]> = {
    '1-stretches': [
      'Stretches: what is sewn without a break',
      stretches.map((s, k) => stroke(way(s.first, s.last), IN_TURN[k % IN_TURN.length]!)).join(''),
    ],
    '2-strokes': [
      'Strokes: the way of the needle cut where it turns, ties taken off',
      steps
        .flatMap(({ strokes }) =>
          Array.from({ length: strokes.count }, (_, k) => stroke(way(strokes.first[k]!, strokes.last[k]!), IN_TURN[k % 3]!)),
        )
        .join(''),
    ],
    '3-segments': [
      'Segments: the cheapest explanation, rows (green), lines (orange) or neither (red)',
      steps
        .flatMap(({ strokes, segments }) =>
          segments.map((s) => stroke(way(strokes.first[s.first]!, strokes.last[s.last]!), LABEL_COLORS[s.label])),
        )
        .join(''),
    ],
    '4-kinds': [
      'Kinds, sections joined: fills (green), satins (violet), runs (orange)',
      objects
        .filter((o) => o.role !== 'tie')
        .map((o) => stroke(wayOf(program, o), KIND_COLORS[o.kind]))
        .join(''),
    ],
    '5-geometry': [
      'Geometry: outlines and holes of fills, edges of satins, ways of runs',
      objects
        .filter((o) => o.role === 'cover')
        .map(drawGeometry)
        .join(''),
    ],
    '6-roles': [
      'Roles: cover (pale), underlay (orange), travel (red), ties (black)',
      [...objects]
        .sort((a, b) => Number(a.role !== 'cover') - Number(b.role !== 'cover'))
        .map((o) => stroke(wayOf(program, o), ROLE_COLORS[o.role]))
        .join(''),
    ],
  };
  return Object.entries(parts).map(([name, [title, body]]) => ({ name, title, svg: sheet(program, title, body) }));
}

function drawGeometry(object: StitchObject): string {
  const color = KIND_COLORS[object.kind];
  if (object.rails !== undefined) return stroke(`${lineOf(object.rails.left)}${lineOf(object.rails.right)}`, color);
  if (object.path !== undefined) return stroke(lineOf(object.path), color);
  return [object.outline, ...object.holes].map((ring) => (ring.length === 0 ? '' : stroke(`${lineOf(ring)}Z`, color))).join('');
}

function wayOf(program: Program, object: StitchObject): string {
  return object.spans.map((s) => pathOf(program, Math.max(0, s.first - 1), s.last)).join('');
}

function pathOf({ x, y }: Program, first: number, last: number): string {
  let d = '';
  for (let i = first; i <= last; i++) d += `${i === first ? 'M' : 'L'}${x[i]!.toFixed(2)} ${(-y[i]!).toFixed(2)}`;
  return d;
}

function lineOf(points: Float64Array): string {
  let d = '';
  for (let k = 0; k < points.length; k += 2) d += `${k === 0 ? 'M' : 'L'}${points[k]!.toFixed(2)} ${(-points[k + 1]!).toFixed(2)}`;
  return d;
}

function stroke(d: string, color: string): string {
  return `<path d="${d}" stroke="${color}"/>`;
}

function sheet(program: Program, title: string, body: string): string {
  const { minX, maxY, width, height } = countProgram(program).extents;
  const [w, h] = [width + 2 * MARGIN, height + 2 * MARGIN];
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${w.toFixed(2)}mm" height="${h.toFixed(2)}mm" viewBox="${(minX - MARGIN).toFixed(2)} ${(-maxY - MARGIN).toFixed(2)} ${w.toFixed(2)} ${h.toFixed(2)}"><title>${title}</title><rect x="${(minX - MARGIN).toFixed(2)}" y="${(-maxY - MARGIN).toFixed(2)}" width="${w.toFixed(2)}" height="${h.toFixed(2)}" fill="#fffdf8"/><g fill="none" stroke-width="0.14" stroke-linejoin="round">${body}</g></svg>\n`;
}
