/** @jest-environment node */
import { beforeEach, describe, expect, jest, test } from '@jest/globals';
import { defaultTarget, generateFill, type ObjectSpec, ProgramBuilder, specOf, writeStitchCsv } from '@isola/core';
import type { Remote } from 'comlink';
import { ref, shallowRef } from 'vue';
import type { ProgramChange } from '../workers/clothProtocol.ts';
import { createEngine } from '../workers/createEngine.ts';
import type { EngineApi } from '../workers/protocol.ts';
import { openOn } from '../workers/testing/openOn.ts';

/** The programs that the drawing worker holds, and how each differs from another. */
const held = new Map<number, ProgramChange | undefined>();
let programs = 0;

jest.unstable_mockModule('../workers/startWorkers.ts', () => ({
  clothWorker: () => ({
    setProgram: (number: number, _: unknown, change?: ProgramChange) => Promise.resolve(void held.set(number, change)),
    dropProgram: (number: number) => Promise.resolve(void held.delete(number)),
  }),
  nextProgramNumber: () => ++programs,
}));
const { createTrials, showView } = await import('./trials.ts');

/** Two fills side by side in one thread. */
function twoFills(): Uint8Array {
  const builder = new ProgramBuilder().color('#2244aa', 'Blue');
  for (const x of [0, 30]) {
    const square = Float64Array.of(x, 0, x + 20, 0, x + 20, 20, x, 20);
    const [path] = generateFill([square], { angle: 20, spacing: 0.4, stitchLength: 4, offset: 0.3 });
    builder.jump(path![0]!, path![1]!);
    for (let k = 0; k < path!.length; k += 2) builder.stitch(path![k]!, path![k + 1]!);
    builder.trim();
  }
  return new TextEncoder().encode(writeStitchCsv(builder.end().build()));
}

async function onBench() {
  const engine = createEngine((number, _, change) => Promise.resolve(void held.set(number, change)));
  const { now } = await openOn(engine, twoFills(), defaultTarget());
  held.clear();
  const object = now.objects!.objects.find((o) => o.kind === 'fill')!;
  const spec = specOf(now.program, object);
  if (!spec.ok) throw new Error(spec.error);
  const shown = shallowRef(await showView(now));
  const trials = createTrials(() => engine as unknown as Remote<EngineApi>, shown, ref(false));
  const edit = (values: Partial<ObjectSpec>) => [{ object: object.id, spec: { ...spec.value, ...values } }];
  return { trials, now: shown.value, edit };
}

beforeEach(() => held.clear());

describe('a trial of specs', () => {
  test('is on the cloth before its figures are there, and is not drawn again when they come', async () => {
    const { trials, now, edit } = await onBench();
    const tried = trials.trySpecs('turned', edit({ angle: 70 }));
    while (trials.pictured.value === now) await new Promise((resolve) => setTimeout(resolve, 1));
    expect(trials.trial.value).toBeUndefined();
    const early = trials.pictured.value!;
    const change = held.get(early.number)!;
    expect(change.from).toBe(now.number);
    // The first square and nothing of the second one.
    expect(change.box[0]).toBeGreaterThan(-1);
    expect(change.box[2]).toBeLessThan(31);
    trials.notePicture(early.number);
    expect(await tried).toBeUndefined();
    const { shown, trial } = trials.trial.value!;
    expect([shown.number, shown.view.target]).toEqual([early.number, now.view.target]);
    expect(shown.view.target).toBe(now.view.target);
    expect(trials.pictured.value).toBe(shown);
    expect(trial.pairs!.stitches[0]).toBeGreaterThan(0);
    expect(shown.view.figures.stitches).not.toBe(now.view.figures.stitches);
    trials.dropTrial();
    expect([...held.keys()]).toEqual([now.number]);
  });

  test('that is overtaken is shown without figures; refused after that, what is shown is what can be kept', async () => {
    const { trials, now, edit } = await onBench();
    expect(await trials.trySpecs('closer', edit({ spacing: 0.5 }), undefined, () => true)).toBeUndefined();
    const first = trials.pictured.value!;
    expect([trials.trial.value, first === now]).toEqual([undefined, false]);
    expect(await trials.trySpecs('wider', edit({ spacing: 0.6 }), undefined, () => true)).toBeUndefined();
    const second = trials.pictured.value!;
    expect([...held.keys()]).toEqual([now.number, second.number]);
    expect(await trials.trySpecs('as a satin', edit({ kind: 'satin' }))).toMatch(/12 mm|as wide as/);
    expect(trials.trial.value!.shown.number).toBe(second.number);
    expect(trials.trial.value!.trial.name).toBe('wider');
    trials.dropTrial();
    expect([...held.keys()]).toEqual([now.number]);
  });

  test('that is dropped while it is sewn, or while it is measured, is over at once and leaves nothing behind', async () => {
    const { trials, now, edit } = await onBench();
    const sewing = trials.trySpecs('turned', edit({ angle: 70 }));
    expect(trials.coming.value).toBeDefined();
    trials.dropTrial();
    expect(await sewing).toBeUndefined();
    expect([trials.coming.value, trials.trial.value, trials.pictured.value]).toEqual([undefined, undefined, now]);

    const measuring = trials.trySpecs('turned', edit({ angle: 80 }));
    while (trials.pictured.value === now) await new Promise((resolve) => setTimeout(resolve, 1));
    trials.dropTrial();
    expect(await measuring).toBeUndefined();
    expect([trials.trial.value, trials.pictured.value]).toEqual([undefined, now]);

    // An engine that was stopped never answers.
    const silent = { sewSpecs: () => new Promise(() => undefined) } as unknown as Remote<EngineApi>;
    const stopped = createTrials(() => silent, shallowRef(now), ref(false));
    const waiting = stopped.trySpecs('turned', edit({ angle: 70 }));
    stopped.dropTrial();
    expect(await waiting).toBeUndefined();
  });

  test('with another thread is shown when it is measured, since all of the picture changes', async () => {
    const { trials, now, edit } = await onBench();
    const target = { ...defaultTarget(), thread: { ...defaultTarget().thread, weight: 30 } };
    expect(await trials.trySpecs('thicker', edit({ spacing: 0.5 }), target)).toBeUndefined();
    expect(held.get(trials.trial.value!.shown.number)).toBeUndefined();
    expect(trials.trial.value!.shown.view.target.thread.weight).toBe(30);
    expect(trials.pictured.value).not.toBe(now);
  });
});
