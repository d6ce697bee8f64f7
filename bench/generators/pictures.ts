import { mkdirSync, writeFileSync } from 'node:fs';
import {
  generateColumns,
  generateContour,
  generateEdgeRun,
  generateEdgeStitch,
  generateFill,
  generateMeander,
  generateRun,
  generateSatin,
  generateTatamiUnderlay,
  rungsOf,
} from '@isola/core';
import { arc, column, ellipse } from '../../demo/shapes.ts';
import { iconShape } from './icons.ts';
import { starColumns } from './star.ts';

/** A drawing of stitches: lines in threads' colors with their penetrations, true to scale. */
interface Picture {
  readonly name: string;
  readonly title: string;
  readonly lines: readonly { readonly path: Float64Array; readonly color: string }[];
  readonly outline: readonly Float64Array[];
}

const SEA = '#1f4e5f';
const BRICK = '#b8552f';
const STRAW = '#c39a3c';

/** From edge to edge, mm. */
const LEANS = [
  [-9, 0, -7, 7],
  [4, 8, 8, 0],
] as const;

const paint = (paths: readonly Float64Array[], color = SEA) => paths.map((path) => ({ path, color }));

/** One picture of every generator, on shapes of an open icon set (@mdi/js, Apache 2.0) and simple ones. */
function draw(): Picture[] {
  const leaf = iconShape('mdiClover', 1.9);
  const bird = iconShape('mdiRabbit', 1.9);
  const shark = iconShape('mdiShark', 2.1);
  const ring = [ellipse(0, 0, 20, 16), ellipse(4, 1, 6, 5)];
  const bend = column(arc(0, -8, 16, 16, 165, 15), (t) => 2 + 5 * Math.sin(Math.PI * t));
  const led = column(arc(0, -30, 36, 36, 125, 55), 6);
  const wave = Float64Array.from(Array.from({ length: 160 }, (_, k) => (k % 2 === 0 ? (k - 80) / 4 : 6 * Math.sin((k - 1) / 12))));
  const fan = [...arc(0, -14, 26, 26, 160, 20), ...[...arc(0, -14, 9, 9, 20, 160)]];
  return [
    { name: 'run', title: 'Run', outline: [], lines: paint([generateRun(wave, { stitchLength: 2.5 })]) },
    {
      name: 'satin',
      title: 'Satin, tapered and bent, short stitches on the inner edge',
      outline: [],
      lines: paint([generateSatin(bend.left, bend.right, { spacing: 0.8, pull: 0.2, splitLength: 7 })]),
    },
    {
      name: 'satin-ring',
      title: 'Satin that closes on itself',
      outline: [],
      lines: paint([generateSatin(arc(0, 0, 16, 16, 0, 360), arc(0, 0, 12, 12, 0, 360), { spacing: 0.8, pull: 0.2, splitLength: 7 })]),
    },
    {
      name: 'satin-led',
      title: 'Satin whose throws lean along two angle lines',
      outline: [],
      lines: [
        ...paint([generateSatin(led.left, led.right, { spacing: 0.8, pull: 0.2, splitLength: 12, rungs: rungsOf(led, LEANS).rungs })]),
        ...paint(
          LEANS.map((line) => Float64Array.from(line)),
          BRICK,
        ),
      ],
    },
    {
      name: 'columns',
      title: 'Five strokes as one path: hidden runs out, satin back',
      outline: [],
      lines: generateColumns(starColumns(22, 2.4), { spacing: 0.8, pull: 0.15, splitLength: 7 })[0]!.map((part) => ({
        path: part.path,
        color: part.role === 'cover' ? SEA : BRICK,
      })),
    },
    {
      name: 'fill',
      title: 'Fill: sections joined inside, entry left, exit in the middle',
      outline: shark,
      lines: paint(
        generateFill(shark, { angle: 25, spacing: 1, stitchLength: 3.5, offset: 0.3 }, { from: { x: -20, y: 0 }, to: { x: 2, y: 2 } }),
      ),
    },
    {
      name: 'open-fill',
      title: 'Open fill with random offsets',
      outline: bird,
      lines: paint(generateFill(bird, { angle: 110, spacing: 2, stitchLength: 4, offset: 'random' })),
    },
    {
      name: 'turning-fill',
      title: 'Fill that turns from one angle line to the next',
      outline: [Float64Array.from(fan)],
      lines: paint(
        generateFill([Float64Array.from(fan)], {
          angle: 0,
          angleLines: [
            [-8, -11, -25, -5],
            [0, -5, 0, 12],
            [8, -11, 25, -5],
          ],
          spacing: 1,
          stitchLength: 3.5,
          offset: 0.3,
        }),
      ),
    },
    {
      name: 'contour',
      title: 'Contour fill: one line',
      outline: leaf,
      lines: paint(generateContour(leaf, { spacing: 1.1, stitchLength: 2.5 })),
    },
    {
      name: 'meander',
      title: 'Meander fill: one line',
      outline: ring,
      lines: paint(generateMeander(ring, { spacing: 1.6, stitchLength: 2.2 })),
    },
    {
      name: 'edge-stitch',
      title: 'Edge stitch: a prong on each bisector, shorter toward inner corners',
      outline: [],
      lines: paint([
        generateEdgeStitch(Float64Array.of(-18, -12, 18, -12, 18, 2, 4, 2, 0, 12, -4, 2, -18, 2, -18, -12), { spacing: 2.5, prong: 3 }),
      ]),
    },
    {
      name: 'underlay',
      title: 'Underlay: tatami (straw), then the edge run (brick)',
      outline: leaf,
      lines: [...paint(generateTatamiUnderlay(leaf, 20), STRAW), ...paint(generateEdgeRun(leaf), BRICK)],
    },
  ];
}

function toSvg({ title, lines, outline }: Picture): string {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const points of [...lines.map((l) => l.path), ...outline]) {
    for (let k = 0; k < points.length; k += 2) {
      [minX, maxX] = [Math.min(minX, points[k]!), Math.max(maxX, points[k]!)];
      [minY, maxY] = [Math.min(minY, points[k + 1]!), Math.max(maxY, points[k + 1]!)];
    }
  }
  const pad = 2;
  const [width, height] = [maxX - minX + 2 * pad, maxY - minY + 2 * pad + 4];
  const list = (points: Float64Array): string =>
    Array.from({ length: points.length / 2 }, (_, k) => `${points[k * 2]!.toFixed(2)},${(-points[k * 2 + 1]!).toFixed(2)}`).join(' ');
  const holes = lines.flatMap(({ path, color }) =>
    Array.from(
      { length: path.length / 2 },
      (_, k) => `<circle cx="${path[k * 2]!.toFixed(2)}" cy="${(-path[k * 2 + 1]!).toFixed(2)}" r=".17" fill="${color}"/>`,
    ),
  );
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${(width * 12).toFixed(0)}" height="${(height * 12).toFixed(0)}" viewBox="${(minX - pad).toFixed(2)} ${(-maxY - pad - 4).toFixed(2)} ${width.toFixed(2)} ${height.toFixed(2)}">`,
    `<rect x="${(minX - pad).toFixed(2)}" y="${(-maxY - pad - 4).toFixed(2)}" width="100%" height="100%" fill="#f5f0e6"/>`,
    `<text x="${minX.toFixed(2)}" y="${(-maxY - 2.6).toFixed(2)}" font-family="sans-serif" font-size="${Math.min(1.7, width / (0.56 * title.length)).toFixed(2)}" fill="#33302a">${title}</text>`,
    ...outline.map((ring) => `<polygon points="${list(ring)}" fill="none" stroke="#b9ae99" stroke-width=".15"/>`),
    ...lines.map(({ path, color }) => `<polyline points="${list(path)}" fill="none" stroke="${color}" stroke-width=".16" opacity=".75"/>`),
    ...holes,
    '</svg>\n',
  ].join('\n');
}

/** Writes a picture of every generator into a folder. */
export function writePictures(folder: string): string[] {
  mkdirSync(folder, { recursive: true });
  return draw().map((picture) => {
    writeFileSync(`${folder}/${picture.name}.svg`, toSvg(picture));
    return picture.name;
  });
}
