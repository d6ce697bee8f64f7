import { formatMillimetre } from '../formatMillimetre.ts';

/** A piece of cloth that is to be cut: its name, its edge (xyxy, mm, y up, closed) and its color. */
export interface CutPiece {
  readonly name: string;
  readonly edge: Float64Array;
  readonly color: string;
}

/** Room around the pieces, mm. */
const MARGIN = 10;
/** A line to check a print by is so long, mm. */
const CHECK = 50;

/** Cutting lines of applique pieces at true size, as an SVG in millimetres with the names of the pieces and a line to check a print by. */
export function cuttingLines(pieces: readonly CutPiece[]): string {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { edge } of pieces)
    for (let k = 0; k < edge.length; k += 2) {
      [minX, maxX] = [Math.min(minX, edge[k]!), Math.max(maxX, edge[k]!)];
      [minY, maxY] = [Math.min(minY, edge[k + 1]!), Math.max(maxY, edge[k + 1]!)];
    }
  if (minX > maxX) [minX, minY, maxX, maxY] = [0, 0, 0, 0];
  const left = minX - MARGIN;
  const top = -maxY - MARGIN;
  const width = Math.max(maxX - minX, CHECK) + 2 * MARGIN;
  const height = maxY - minY + 3 * MARGIN;
  const mm = (v: number): string => formatMillimetre(Math.round(v * 1000) / 1000);
  const bottom = top + height - MARGIN;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(width)}mm" height="${mm(height)}mm" viewBox="${mm(left)} ${mm(top)} ${mm(width)} ${mm(height)}">`,
    ...pieces.map(({ name, edge, color }) => {
      const points = Array.from({ length: edge.length / 2 }, (_, k) => `${mm(edge[k * 2]!)} ${mm(-edge[k * 2 + 1]!)}`);
      const [x, y] = middleOf(edge);
      const label = `<text x="${mm(x)}" y="${mm(-y)}" font-family="sans-serif" font-size="3" text-anchor="middle">${escape(name)}</text>`;
      return `<path d="M${points.join('L')}Z" fill="none" stroke="#000000" stroke-width="0.1" data-cloth="${color}"/>\n${label}`;
    }),
    `<path d="M${mm(left + MARGIN)} ${mm(bottom)}h${CHECK}m0 -1.5v3m${-CHECK} 0v-3" fill="none" stroke="#000000" stroke-width="0.2"/>`,
    `<text x="${mm(left + MARGIN)}" y="${mm(bottom + 4)}" font-family="sans-serif" font-size="3">${CHECK} mm</text>`,
    '</svg>',
    '',
  ].join('\n');
}

function middleOf(edge: Float64Array): readonly [number, number] {
  let [x, y] = [0, 0];
  for (let k = 0; k < edge.length; k += 2) [x, y] = [x + edge[k]!, y + edge[k + 1]!];
  return [(2 * x) / edge.length, (2 * y) / edge.length];
}

const escape = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
