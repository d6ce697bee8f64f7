// npm run pictures:shapes: draws each operation on shapes, before and after, into docs/shapes.
import { mkdirSync, writeFileSync } from 'node:fs';
import {
  defaultTarget,
  type Design,
  drawShapes,
  fitNodes,
  moveNodes,
  nodesAt,
  nodesOf,
  objectsOf,
  orderOf,
  piecesOf,
  ProgramBuilder,
  readShapeAsk,
  type ShapeName,
  smooth,
  splitIntoStretches,
  startDesign,
} from '@isola/core';
import { iconShape } from '../generators/icons.ts';

const [SEA, BRICK, STRAW] = ['#1f4e5f', '#b8552f', '#c39a3c'];
/** Spacings are drawn wider than sewn ones, so that rows can be told apart in a small picture. */
const TARGET = defaultTarget();
let ids = 0;

function ask(design: Design, name: ShapeName, values: Record<string, unknown>): { design: Design; made: readonly string[] } {
  const asked = readShapeAsk(name, values);
  if (!asked.ok) throw new Error(`${name}: ${asked.error}`);
  const drawn = drawShapes(design, asked.value, () => `made-${++ids}`);
  if (!drawn.ok) throw new Error(`${name}: ${drawn.error}`);
  return drawn.value;
}

/** A design of shapes, with the ids of them in the order of drawing. */
function drawn(...values: Record<string, unknown>[]): { design: Design; ids: string[] } {
  let design = startDesign(new ProgramBuilder().end().build(), TARGET);
  const all: string[] = [];
  for (const one of values) {
    const next = ask(design, 'draw', one);
    design = next.design;
    all.push(...next.made);
  }
  return { design, ids: all };
}

const round = (x: number, y: number, r: number): Float64Array =>
  Float64Array.from({ length: 160 }, (_, k) =>
    k % 2 === 0 ? x + r * Math.cos((Math.PI * k) / 80) : y + r * Math.sin((Math.PI * (k - 1)) / 80),
  );
const box = (x: number, y: number, w: number, h: number): Float64Array => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h);
const closed = (...rings: Float64Array[]) => ({ form: 'closed', lines: rings.map((ring) => [...fitNodes(ring, true)]) });
const column = (points: number[], width: number) => ({ form: 'middle', lines: [nodesAt(points)], width });

interface Picture {
  readonly name: string;
  readonly before: Design;
  readonly after: Design;
}

function pictures(): Picture[] {
  const out: Picture[] = [];
  const add = (
    name: ShapeName,
    of: { design: Design; ids: string[] },
    values: (ids: string[]) => Record<string, unknown>,
    as: string = name,
  ): void => {
    out.push({ name: as, before: of.design, after: ask(of.design, name, values(of.ids)).design });
  };
  const leaf = drawn({ ...closed(...iconShape('mdiClover', 1.2)), color: SEA });
  const two = drawn({ ...closed(round(-5, 0, 9)), color: SEA }, { ...closed(round(6, 0, 7)), color: BRICK, angle: 45 });
  const pair = drawn({ ...closed(box(-12, -6, 12, 12)), color: SEA }, { ...closed(box(0.2, -6, 12, 12)), color: SEA, angle: 60 });
  const beside = drawn(
    { ...closed(box(-12, -6, 12, 12)), color: SEA, angle: 0 },
    { ...closed(box(0, -6, 12, 12)), color: BRICK, angle: 90 },
  );
  add('outline', leaf, ([id]) => ({ objects: [id], color: BRICK }));
  add('outline', leaf, ([id]) => ({ objects: [id], as: 'edge', width: 2, place: 'inside', color: BRICK }), 'outline-edge');
  add('border', leaf, () => ({ color: BRICK }));
  add('backing', leaf, () => ({ color: STRAW }));
  add('nap', leaf, () => ({ color: STRAW }));
  add('fill-holes', drawn({ ...closed(round(0, 0, 10), round(3, 2, 1.8)), color: SEA }), () => ({}));
  add('carve', two, ([object, by]) => ({ object, by }));
  add('cut-away', two, ([one, by]) => ({ objects: [one], by, gap: 1.5 }));
  add('reach', beside, ([object, under]) => ({ object, under, by: 1.2 }));
  add('join', pair, (all) => ({ objects: all }));
  const halves = ask(leaf.design, 'cut', { object: leaf.ids[0], along: [-16, -4, 16, 5] });
  // The part is drawn aside, so that the cut is seen.
  out.push({ name: 'cut', before: leaf.design, after: ask(halves.design, 'place', { objects: halves.made, dx: 2, dy: -3 }).design });
  add('applique', drawn({ ...closed(round(0, 0, 10)), color: SEA }), (all) => ({ objects: all, cloth: '#9db36b' }));
  add('place', two, ([, id]) => ({ objects: [id], turn: 60, dx: 4, dy: 5 }));
  add('scale', two, ([, id]) => ({ objects: [id], factor: 0.6 }));
  const strokes = drawn(
    { ...column([-14, 0, -5, 0], 3), color: BRICK },
    { ...closed(box(-7, -5, 14, 10)), color: SEA, angle: 60 },
    { ...column([7.7, 0, 15, 0], 3), color: BRICK },
  );
  add('one-path', strokes, ([a, , b]) => ({ objects: [a, b] }));
  add('remove', two, ([, id]) => ({ objects: [id] }));
  const known = nodesOf(leaf.design, leaf.ids[0]!);
  if (known.ok)
    add('reshape', leaf, ([object]) => ({
      object,
      lines: known.value.lines.map((line, k) => (k === 0 ? moveNodes(line, [0], 4, 5) : [...line])),
    }));
  const swash = smooth(nodesAt([-14, -4, -4, 5, 6, -5, 15, 4]), [1, 2], false);
  out.push({
    name: 'draw',
    before: drawn({ form: 'line', lines: [swash], color: SEA }).design,
    after: drawn({ form: 'middle', lines: [swash], widths: [0.4, 4, 4, 0.4], color: SEA }).design,
  });
  return out;
}

/** Both sides beside each other, as lines of thread. */
function toSvg({ before, after }: Picture): string {
  const sides = [before, after].map(sideOf);
  const width = Math.max(...sides.map(({ box: [minX, , maxX] }) => maxX - minX)) + 4;
  const height = Math.max(...sides.map(({ box: [, minY, , maxY] }) => maxY - minY)) + 4;
  const parts = sides.map(({ body, box: [minX, minY, maxX, maxY] }, k) => {
    const [x, y] = [k * width + width / 2 - (minX + maxX) / 2, height / 2 + (minY + maxY) / 2];
    return `<g transform="translate(${x.toFixed(1)} ${y.toFixed(1)})">${body}</g>`;
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${(width * 16).toFixed(0)}" height="${(height * 8).toFixed(0)}" viewBox="0 0 ${(2 * width).toFixed(1)} ${height.toFixed(1)}">`,
    '<rect width="100%" height="100%" fill="#f5f0e6"/>',
    `<path d="M${width.toFixed(1)} 2V${(height - 2).toFixed(1)}" stroke="#b9ae99" stroke-width=".2"/>`,
    ...parts,
    '</svg>\n',
  ].join('\n');
}

function sideOf({ program, plan }: Design): { body: string; box: readonly [number, number, number, number] } {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  const at = (x: number, y: number): string => `${x.toFixed(1)},${(-y).toFixed(1)}`;
  const lines = splitIntoStretches(program).map(({ first, last, thread }) => {
    const points: string[] = [];
    for (let i = first; i <= last; i++) {
      const [x, y] = [program.x[i]!, program.y[i]!];
      [minX, maxX, minY, maxY] = [Math.min(minX, x), Math.max(maxX, x), Math.min(minY, y), Math.max(maxY, y)];
      points.push(at(x, y));
    }
    return `<polyline points="${points.join(' ')}" fill="none" stroke="${program.threads[thread]?.color ?? SEA}" stroke-width=".17" opacity=".8"/>`;
  });
  const pieces = piecesOf(objectsOf(plan).objects).map(({ edge, color }) => {
    const points = Array.from({ length: edge.length / 2 }, (_, k) => at(edge[k * 2]!, edge[k * 2 + 1]!));
    return `<polygon points="${points.join(' ')}" fill="${color}"/>`;
  });
  return { body: [...pieces, ...lines].join(''), box: [minX, minY, maxX, maxY] };
}

mkdirSync('docs/shapes', { recursive: true });
for (const picture of pictures()) {
  writeFileSync(`docs/shapes/${picture.name}.svg`, toSvg(picture));
  console.log(picture.name, orderOf(picture.after.plan).length, 'objects');
}
