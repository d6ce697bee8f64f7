import { countProgram } from '../../measure/counts.ts';
import { COLOR, COMMANDS, END, JUMP, type Program, STOP, UNNAMED_THREAD } from '../../model/program.ts';
import { type Gap, splitIntoStretches } from '../../model/stretches.ts';
import { formatMillimetre } from '../formatMillimetre.ts';

/** A viewBox needs some width; a program of one penetration has none (mm). */
const LEAST_EXTENT = 0.4;

/**
 * The program as an SVG of polylines, one an unbroken run of stitches, in mm with y turned down. The rows between runs stand in attributes:
 * `data-before` (and `data-after` on the last) lists them in order; `data-note` has the texts of color and stop rows, one a line;
 * `data-jumps` and `data-colors` stand only where the drawing does not say them already; `data-row-notes` has the texts of other rows by
 * their place. Reads back as the same program.
 */
export function writeSvg(program: Program): string {
  const { extents } = countProgram(program);
  const width = formatMillimetre(round6(Math.max(extents.width, LEAST_EXTENT)));
  const height = formatMillimetre(round6(Math.max(extents.height, LEAST_EXTENT)));
  const out = [
    `<svg xmlns="http://www.w3.org/2000/svg" data-isola="stitches" width="${width}mm" height="${height}mm" viewBox="${formatMillimetre(extents.minX)} ${formatMillimetre(-extents.maxY)} ${width} ${height}">`,
  ];
  const stretches = splitIntoStretches(program);
  let colors = 0;
  stretches.forEach((stretch, k) => {
    const thread = program.threads[stretch.thread] ?? UNNAMED_THREAD;
    const attributes = [`fill="none" stroke="${thread.color}" stroke-width="0.4"`];
    const before = describeGap(
      program,
      stretch.before,
      colors,
      { x: program.x[stretch.first]!, y: program.y[stretch.first]! },
      thread.color,
    );
    colors += stretch.before.colors;
    attributes.push(
      `data-before="${[...(k === 0 ? ['start'] : []), ...before.tokens].join(' ')}"`,
      ...before.attributes.map((a) => `data-${a}`),
    );
    let noted = stretch.after.first;
    if (k === stretches.length - 1) {
      const after = describeGap(program, stretch.after, colors, undefined, undefined);
      if (after.tokens.length > 0)
        attributes.push(`data-after="${after.tokens.join(' ')}"`, ...after.attributes.map((a) => `data-after-${a}`));
      noted = stretch.after.end;
    }
    const rowNotes = describeRowNotes(program, stretch.before.first, noted);
    if (rowNotes !== '') attributes.push(`data-row-notes="${escape(rowNotes)}"`);
    const points: string[] = [];
    for (let i = stretch.first; i <= stretch.last; i++)
      points.push(`${formatMillimetre(program.x[i]!)},${formatMillimetre(-program.y[i]!)}`);
    out.push(`<polyline ${attributes.join(' ')} points="${points.join(' ')}"/>`);
  });
  out.push('</svg>', '');
  return out.join('\n');
}

function describeGap(
  program: Program,
  gap: Gap,
  colorsBefore: number,
  target: { x: number; y: number } | undefined,
  stroke: string | undefined,
): { tokens: string[]; attributes: string[] } {
  const tokens: string[] = [];
  const notes: string[] = [];
  const jumps: number[] = [];
  const colors: string[] = [];
  for (let i = gap.first; i < gap.end; i++) {
    const command = program.command[i]!;
    if (command === END) continue;
    tokens.push(COMMANDS[command]!);
    if (command === JUMP) jumps.push(program.x[i]!, program.y[i]!);
    else if (command === STOP) notes.push(program.notes.get(i) ?? '');
    else if (command === COLOR) {
      const thread = program.threads[colorsBefore + colors.length]!;
      colors.push(thread.color);
      notes.push(thread.name);
    }
  }
  const attributes: string[] = [];
  if (notes.some((n) => n !== '')) {
    const text = notes.map((n) => n.replaceAll('\\', '\\\\').replaceAll('\n', '\\n').replaceAll('\r', '\\r')).join('\n');
    attributes.push(`note="${escape(text)}"`);
  }
  const isPlainJump = jumps.length === 0 || (jumps.length === 2 && jumps[0] === target?.x && jumps[1] === target?.y);
  if (!isPlainJump) {
    const pairs: string[] = [];
    for (let k = 0; k < jumps.length; k += 2) pairs.push(`${formatMillimetre(jumps[k]!)},${formatMillimetre(-jumps[k + 1]!)}`);
    attributes.push(`jumps="${pairs.join(' ')}"`);
  }
  if (colors.length > 1 || (colors.length === 1 && colors[0] !== stroke)) attributes.push(`colors="${colors.join(' ')}"`);
  return { tokens, attributes };
}

/** Texts of stitch, jump, trim and end rows as JSON, keyed by their distance from the run's first row. */
function describeRowNotes(program: Program, first: number, end: number): string {
  const found: Record<string, string> = {};
  for (let i = first; program.notes.size > 0 && i < end; i++) {
    const note = program.notes.get(i);
    if (note !== undefined && program.command[i] !== STOP) found[i - first] = note;
  }
  return Object.keys(found).length === 0 ? '' : JSON.stringify(found);
}

function round6(value: number): number {
  return Math.round(value * 1e6) / 1e6;
}

function escape(text: string): string {
  return (
    text
      .replaceAll('&', '&amp;')
      .replaceAll('<', '&lt;')
      .replaceAll('>', '&gt;')
      .replaceAll('"', '&quot;')
      .replaceAll('\n', '&#10;')
      .replaceAll('\t', '&#9;')
      // XML 1.0 has no way to write the other control characters.
      // eslint-disable-next-line no-control-regex -- these are what is looked for
      .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, ' ')
  );
}
