import { describe, expect, test } from '@jest/globals';
import { defaultTarget, type Design, generateFill, orderOf, ProgramBuilder, readObjectSpec, startDesign } from '@isola/core';
import { readAhead } from './readAhead.ts';

/** Small fills side by side, whose grids take longest to read. */
function tiles(count: number): Design {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  for (let k = 0; k < count; k++) {
    const x = k * 10;
    const [path] = generateFill([Float64Array.of(x, 0, x + 8, 0, x + 8, 8, x, 8)], {
      angle: 20 * k,
      spacing: 0.4,
      stitchLength: 4,
      offset: 0.3,
    });
    builder.trim().jump(path![0]!, path![1]!);
    for (let n = 0; n < path!.length; n += 2) builder.stitch(path![n]!, path![n + 1]!);
  }
  return startDesign(builder.trim().end().build(), defaultTarget());
}

describe('specs read ahead', () => {
  test('are the same values that are asked for later, and are there at once then', async () => {
    const [ahead, fresh] = [tiles(6), tiles(6)];
    await readAhead(ahead, () => true);
    const specs = (design: Design): unknown[] => orderOf(design.plan).map((id) => readObjectSpec(design, id));
    const known = specs(ahead);
    expect(known).toEqual(specs(fresh));
    // What was read is the value itself, not one like it.
    expect(specs(ahead).every((spec, k) => (spec as { value: unknown }).value === (known[k] as { value: unknown }).value)).toBe(true);
  });

  test('let other work in between, and end where another design is in hand', async () => {
    const design = tiles(8);
    let turns = 0;
    const others = setInterval(() => turns++, 1);
    let asked = 0;
    // Another design comes into hand when a few of its objects were read.
    const reading = readAhead(design, () => ++asked <= 3);
    await reading;
    expect(asked).toBe(4);
    await readAhead(design, () => true);
    await new Promise((resolve) => setTimeout(resolve, 5));
    clearInterval(others);
    expect(turns).toBeGreaterThan(0);
  });
});
