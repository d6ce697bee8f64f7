import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import {
  applyOperation,
  defaultTarget,
  type Operation,
  type Program,
  ProgramBuilder,
  readStitchFile,
  startDesign,
  STITCH,
  TRIM,
  writeStitchCsv,
} from '@isola/core';
import { enableAutoUnmount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import '../../workers/testing/quietWorkers.ts';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import { buttonIn, onCloth, onPage, settled } from '../testing/onPage.ts';

const { useBench } = await import('../../stores/bench.ts');
const { useObjects } = await import('../../stores/objects.ts');
const { usePoints } = await import('../../stores/points.ts');
const { default: PointPad } = await import('./PointPad.vue');
const { default: PointTool } = await import('./PointTool.vue');

// There is nothing to draw on here.
HTMLCanvasElement.prototype.getContext = () => null;
enableAutoUnmount(afterEach);
beforeEach(() => void setActivePinia(createPinia()));
afterEach(() => document.body.replaceChildren());

const countTrims = ({ command }: Program): number => command.filter((c) => c === TRIM).length;

/** A run along x from 0 to 30 mm and another above it, on the bench with an engine of their own; 10 px a mm, (15, 5) in the middle. */
async function layOnBench() {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(0, 0);
  for (let k = 0; k <= 12; k++) builder.stitch(k * 2.5, 0);
  builder.trim().jump(0, 10);
  for (let k = 0; k <= 12; k++) builder.stitch(k * 2.5, 10);
  const bytes = new TextEncoder().encode(writeStitchCsv(builder.trim().end().build()));
  const engine = createEngine();
  const opened = await openOn(engine, bytes, defaultTarget());
  const bench = useBench();
  const steps: { name: string; operation: Operation }[] = [];
  bench.editPoints = (ask) => engine.editPoints(ask);
  bench.perform = (name, operation) => {
    steps.push({ name, operation });
    return Promise.resolve(true);
  };
  bench.now = { number: 1, view: opened.now };
  await settled();
  const points = usePoints();
  points.open();
  points.isOfObject = false;
  const cloth = onCloth(PointPad, { view: { x: 15, y: 5, scale: 10 }, size: { width: 400, height: 300 } });
  const drag = (...places: (readonly [number, number])[]): Promise<void> => cloth.drag(places);
  /** The design after the last step that was made. */
  const after = (): Program => {
    const read = readStitchFile(bytes);
    if (!read.ok) throw new Error(read.error.message);
    const next = applyOperation(startDesign(read.value.program, defaultTarget()), steps.at(-1)!.operation);
    if (!next.ok) throw new Error(next.error);
    return next.value.program;
  };
  return { bench, points, steps, tool: onPage(PointTool), send: cloth.send, press: cloth.press, drag, after };
}

describe('single stitches on the cloth', () => {
  test('are picked by a click, with Shift more of them, by a box, a lasso and a brush, of one object or of all', async () => {
    const { bench, points, send, drag, tool } = await layOnBench();
    const { program } = bench.now!.view;
    const places = () => points.picked.map((row) => [program.x[row], program.y[row]]);
    await send('pointerdown', 5.1, 0.2);
    await send('pointerup', 5.1, 0.2);
    expect(places()).toEqual([[5, 0]]);
    await send('pointerdown', 10, 10, { shiftKey: true });
    await send('pointerup', 10, 10, { shiftKey: true });
    expect(places()).toEqual([
      [5, 0],
      [10, 10],
    ]);
    points.tool = 'box';
    await drag([4, 4], [9, -4]);
    expect(places()).toEqual([
      [5, 0],
      [7.5, 0],
    ]);
    points.tool = 'lasso';
    await drag([4, 4], [9, 4], [9, 14], [4, 14]);
    expect(places()).toEqual([
      [5, 10],
      [7.5, 10],
    ]);
    points.tool = 'brush';
    await drag([0, 1], [6, 1]);
    expect(places()).toEqual([
      [0, 0],
      [2.5, 0],
      [5, 0],
    ]);
    expect(tool.text()).toContain('3 picked');
    const objects = useObjects();
    points.tool = 'box';
    points.isOfObject = true;
    objects.select(objects.objects.find(({ role, entry }) => role === 'cover' && entry.y > 5));
    await settled();
    await drag([4, 14], [9, -4]);
    expect(places()).toEqual([
      [5, 10],
      [7.5, 10],
    ]);
    await send('pointerdown', 20, 5);
    await send('pointerup', 20, 5);
    expect(points.picked).toEqual([]);
  });

  test('are dragged, moved by keys and by typed places; each is one step with its name, and what is picked stays picked', async () => {
    const { points, steps, drag, press, tool, after } = await layOnBench();
    await drag([5, 0], [5, 0]);
    await drag([5, 0], [5.5, 0.8], [6, 1]);
    expect(steps.map(({ name }) => name)).toEqual([expect.stringMatching(/^move a stitch of /)]);
    const [row] = points.picked;
    expect([after().x[row!], after().y[row!]]).toEqual([6, 1]);
    await press('ArrowUp', { shiftKey: true });
    expect(after().y[row!]).toBe(1);
    await press('ArrowRight');
    expect(after().x[row!]).toBe(5.1);
    const [x] = tool.findAll('form.typed input');
    await x!.setValue('7,25');
    await tool.find('form.typed').trigger('submit');
    await settled();
    expect(after().x[row!]).toBe(7.25);
    await x!.setValue('there');
    await tool.find('form.typed').trigger('submit');
    await settled();
    expect(tool.text()).toContain('typed as numbers');
    expect(steps).toHaveLength(4);
  });

  test('are set, deleted, cut, smoothed and taken out; what cannot be done is said, and Escape lets go, then leaves', async () => {
    const { points, steps, press, drag, tool, after, bench } = await layOnBench();
    const before = bench.now!.view.program.rowCount;
    const button = (words: RegExp) => buttonIn(tool, words);
    points.pickAt(10, 0, 1, false);
    await press('i');
    expect(points.problem).toBe('');
    expect(after().rowCount).toBe(before + 1);
    points.pickAt(10, 0, 1, false);
    await press('x');
    expect(countTrims(after())).toBe(countTrims(bench.now!.view.program) + 1);
    points.tool = 'box';
    await drag([4, 4], [21, -4]);
    await press('m');
    await press('Delete');
    expect(steps.at(-1)!.name).toMatch(/^delete 7 stitches/);
    expect(points.notes.join()).toMatch(/parted/);
    points.onLong = 'refuse';
    await drag([4, 4], [21, -4]);
    await button(/^Delete$/).trigger('click');
    await settled();
    expect(tool.text()).toMatch(/Nothing was changed: the stitch to \(.*\) would be .* mm long/);
    await drag([4, 14], [21, -4]);
    await button(/Take out/).trigger('click');
    await settled();
    const program = after();
    for (let row = 0; row < program.rowCount; row++)
      if (program.command[row] === STITCH) expect(program.x[row]! > 5.5 && program.x[row]! < 19.5).toBe(false);
    points.pickAt(0, 0, 1, false);
    await press('Escape');
    expect([points.isOn, points.picked]).toEqual([true, []]);
    await press('Delete');
    await button(/after$/).trigger('click');
    await press('Escape');
    expect(points.isOn).toBe(false);
  });
});
