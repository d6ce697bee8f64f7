import { defaultTarget, generateFill, type Operation, ProgramBuilder, writeStitchCsv } from '@isola/core';
import '../../../workers/testing/quietWorkers.ts';
import { createEngine } from '../../../workers/createEngine.ts';
import { openOn } from '../../../workers/testing/openOn.ts';
import { onPage, settled } from '../../testing/onPage.ts';

const { useBench } = await import('../../../stores/bench.ts');
const { useObjects } = await import('../../../stores/objects.ts');
const { default: ShapePanel } = await import('../ShapePanel.vue');

/** Two closed fills beside each other, on the bench with an engine of their own and the panel of shapes; steps are noted in place of being saved. */
export async function layTwoFills() {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  for (const x of [0, 26]) {
    const [path] = generateFill([Float64Array.of(x, 0, x + 20, 0, x + 20, 20, x, 20)], {
      angle: 30 + x,
      spacing: 0.4,
      stitchLength: 4,
      offset: 0.3,
    });
    builder.trim().jump(path![0]!, path![1]!);
    for (let k = 0; k < path!.length; k += 2) builder.stitch(Math.round(path![k]! * 1000) / 1000, Math.round(path![k + 1]! * 1000) / 1000);
  }
  const engine = createEngine();
  const opened = await openOn(engine, new TextEncoder().encode(writeStitchCsv(builder.trim().end().build())), defaultTarget());
  const bench = useBench();
  const accepted: string[] = [];
  const performed: Operation[] = [];
  bench.tryShape = async (name, ask) => {
    const tried = await engine.tryShape(name, ask);
    if ('why' in tried) return tried.why;
    bench.trial = { shown: { number: 9, view: tried.after }, trial: tried, keys: [] };
    return undefined;
  };
  bench.nodesOf = (id) => engine.nodesOf(id);
  bench.trySpecs = async (name, edits) => {
    const sewn = await engine.sewSpecs(name, edits);
    if ('why' in sewn) return sewn.why;
    const tried = (await engine.measureSewn())!;
    bench.trial = { shown: { number: 9, view: tried.after }, trial: tried, keys: [] };
    return undefined;
  };
  bench.perform = (_, operation) => {
    performed.push(operation);
    return Promise.resolve(true);
  };
  bench.acceptTrial = () => {
    accepted.push(bench.trial!.trial.name);
    bench.trial = undefined;
    return Promise.resolve(true);
  };
  bench.dropTrial = () => (bench.trial = undefined);
  bench.now = { number: 1, view: opened.now };
  await settled();
  const panel = onPage(ShapePanel);
  await settled();
  return { bench, objects: useObjects(), panel, accepted, performed };
}
