import { expect, test } from '@jest/globals';
import { generateRun } from '../generate/line/run.ts';
import { generateSatin } from '../generate/column/satin.ts';
import { defaultTarget } from '../materials/shop.ts';
import { startDesign } from '../model/design.ts';
import { ProgramBuilder, TRIM } from '../model/program.ts';
import { recognizeProgram } from '../recognize/recognizeProgram.ts';
import { specOf } from '../recognize/read/specOf.ts';
import { applyOperation } from './operation.ts';
import { rebuildObjects } from './rebuildObjects.ts';

const thousandth = (v: number): number => Math.round(v * 1000) / 1000;

test('a line that ends elsewhere now and has no inside to walk in is cut from the next object and locked, and it is said', () => {
  // A run that a satin is sewn on to, sewn there and back: it ends where it began.
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(0, 0);
  const run = generateRun(Float64Array.of(0, 0, 20, 3, 40, 0), { stitchLength: 2.5 });
  const column = generateSatin(Float64Array.of(40, 1.5, 60, 1.5), Float64Array.of(40, -1.5, 60, -1.5), {
    spacing: 0.4,
    pull: 0,
    splitLength: 7,
  });
  for (const path of [run, column]) for (let k = 0; k < path.length; k += 2) builder.stitch(thousandth(path[k]!), thousandth(path[k + 1]!));
  const from = startDesign(builder.trim().end().build(), defaultTarget());
  const known = recognizeProgram(from.program);
  const object = known.objects.find((o) => o.kind === 'run')!;
  const spec = specOf(from.program, object);
  if (!spec.ok) throw new Error(spec.error);
  const { operations, done } = rebuildObjects(from, known, [{ object: object.id, spec: { ...spec.value, passes: 2 } }]);
  expect(done[0]!.notes.join()).toContain('the thread is cut');
  const next = applyOperation(from, { id: 'sequence', operations: [...operations] });
  if (!next.ok) throw new Error(next.error);
  const {
    program,
    rebuilt: [cutOff],
  } = next.value;
  const cut = Array.from(program.command).indexOf(TRIM);
  expect(cut).toBeGreaterThan(cutOff!.first);
  expect(cut).toBeLessThan(cutOff!.last);
  // On either side of the cut the thread is locked, and the satin begins where it did.
  const ties = cutOff!.parts.filter((part) => part.role === 'tie');
  expect(ties.some(({ last }) => last < cut) && ties.some(({ first }) => first > cut)).toBe(true);
  expect(program.rowCount - cutOff!.last).toBe(from.program.rowCount - object.last);
});
