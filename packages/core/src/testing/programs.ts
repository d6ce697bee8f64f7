import fc from 'fast-check';
import { generateFill } from '../generate/fill/fill.ts';
import { generateLock } from '../generate/line/tie.ts';
import { type Program, ProgramBuilder, type Row } from '../model/program.ts';

/** Programs of any shape a file can hold: every command, in any order, with notes that need quoting. For property tests. */
export const anyProgram = anyProgramWithin(1000);

/** The same, with no place farther than `reach` mm from the origin on either axis. */
export function anyProgramWithin(reach: number): fc.Arbitrary<Program> {
  const coordinate = (): fc.Arbitrary<number> => fc.integer({ min: -1000 * reach, max: 1000 * reach }).map((v) => v / 1000);
  const row = fc.oneof(
    { weight: 8, arbitrary: fc.record({ command: fc.constant('stitch' as const), x: coordinate(), y: coordinate(), note: note(0.05) }) },
    { weight: 2, arbitrary: fc.record({ command: fc.constant('jump' as const), x: coordinate(), y: coordinate(), note: note(0.05) }) },
    { weight: 1, arbitrary: fc.record({ command: fc.constant('trim' as const), note: note(0.05) }) },
    { weight: 1, arbitrary: fc.record({ command: fc.constant('stop' as const), note: note(0.7) }) },
    { weight: 1, arbitrary: fc.record({ command: fc.constant('color' as const), color: color(), note: note(0.7) }) },
  );
  return fc.array(row, { minLength: 1, maxLength: 60 }).map((rows) => buildProgram([...rows, { command: 'stitch', x: 1, y: 2 }]));
}

/** A program of rows, ended. */
export function buildProgram(rows: readonly Row[]): Program {
  const builder = new ProgramBuilder();
  for (const row of rows) builder.row(row);
  return builder.end().build();
}

/** A path of stitches with nothing before it but its thread, from x, y pairs; ended without a trim. */
export function sewPath(points: readonly (readonly [number, number])[], color = '#123456'): Program {
  const builder = new ProgramBuilder().color(color, 'Test thread').jump(...points[0]!);
  for (const [x, y] of points) builder.stitch(x, y);
  return builder.end().build();
}

/** Sews parts with one thread, each locked at both ends; `between` stands between parts. */
export function sewParts(parts: readonly (readonly (readonly [number, number])[])[], between: 'trim' | 'jump', isLocked = true): Program {
  const builder = new ProgramBuilder().color('#336699', 'Test blue');
  const lock = (a: readonly [number, number], b: readonly [number, number]): void => {
    if (!isLocked) return;
    const points = generateLock(a[0], a[1], b[0], b[1]);
    for (let k = 0; k < points.length; k += 2) builder.stitch(points[k]!, points[k + 1]!);
  };
  parts.forEach((part, n) => {
    builder.jump(...part[0]!).stitch(...part[0]!);
    if (between === 'trim' || n === 0) lock(part[0]!, part[1]!);
    for (const [x, y] of part.slice(1)) builder.stitch(x, y);
    if (between === 'trim' || n === parts.length - 1) lock(part[part.length - 1]!, part[part.length - 2]!);
    if (between === 'trim') builder.trim();
  });
  return builder.end().build();
}

/** A zigzag of `count` stitches, `width` mm broad, at a same-direction pitch of `spacing` mm, from (x, y) upward. */
export function zigzag(x: number, y: number, count: number, width: number, spacing: number): [number, number][] {
  return Array.from({ length: count + 1 }, (_, k) => [x + (k % 2) * width, Math.round((y + (k * spacing) / 2) * 1000) / 1000]);
}

function color(): fc.Arbitrary<string> {
  return fc.integer({ min: 0, max: 0xffffff }).map((v) => `#${v.toString(16).padStart(6, '0')}`);
}

function note(share: number): fc.Arbitrary<string> {
  const text = fc.oneof(
    fc.constantFrom('Lay the badge fabric', 'a, "quoted" note', 'two\nlines', 'back\\slash', ' blank ends ', '<&>'),
    fc.string({ maxLength: 12 }),
  );
  // XML has no way to write most control characters, so no file of both formats can hold them.
  // eslint-disable-next-line no-control-regex -- these are what is left out
  const plain = text.map((t) => t.replace(/[\u0000-\u0009\u000b-\u001f\u007f\ufffe\uffff]/g, ''));
  return fc.double({ min: 0, max: 1, noNaN: true }).chain((d) => (d < share ? plain : fc.constant('')));
}

/** The rows of a bare fill of a square around the origin, `edge` mm long, without steps that a needle would not make. */
export function fillSquare(edge: number, spacing: number, angle = 30): [number, number][] {
  const h = edge / 2;
  const [path] = generateFill([Float64Array.of(-h, -h, h, -h, h, h, -h, h)], { angle, spacing, stitchLength: 4, offset: 0.3 });
  const points = Array.from({ length: path!.length / 2 }, (_, k): [number, number] => [path![k * 2]!, path![k * 2 + 1]!]);
  return points.filter(([x, y], k) => k === 0 || Math.hypot(x - points[k - 1]![0], y - points[k - 1]![1]) > 0.4);
}
