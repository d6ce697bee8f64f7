import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { enableAutoUnmount } from '@vue/test-utils';
import { nextTick } from 'vue';
import { useViewing } from '../../stores/viewing.ts';
import { choose } from '../testing/choose.ts';
import { layOnBench, setTheStage, show, TAPE_WIDTH, words } from '../testing/stage.ts';
import SewTape from './SewTape.vue';

enableAutoUnmount(afterEach);
beforeEach(setTheStage);

describe('tape', () => {
  test('says the whole time and what is lost, and shows a trial or the file as it came beneath', async () => {
    const bench = await layOnBench();
    const tape = show(SewTape);
    const total = Math.round(bench.now!.view.totals.seconds);
    expect(tape.find('.line b').text()).toBe(`0:${total}`);
    expect(words(tape)).toMatch(/trims 0:\d\d colors 0:00 .*time lost · an estimate for /);
    expect(words(tape)).not.toContain('as it came');
    bench.done = [{ id: 'a', name: 'a step', reason: undefined, isTarget: false, isFixed: false }];
    await nextTick();
    expect(words(tape)).toMatch(/as it came 0:\d\d, no change/);
    await bench.tryRepairs([bench.openFindings.find((f) => f.rule === 'needless-trim')!.key]);
    await nextTick();
    expect(words(tape)).toMatch(/if accepted 0:\d\d, 0:0\d less/);
  });

  test('is a slider: dragged to a time, stepped by keys, whole again past its end', async () => {
    const bench = await layOnBench();
    const tape = show(SewTape);
    await nextTick();
    const slider = tape.find('[role=slider]');
    const total = bench.now!.view.totals.seconds;
    const at = (type: string, offsetX: number): void => {
      const event = new MouseEvent(type, { bubbles: true });
      Object.defineProperty(event, 'offsetX', { value: offsetX });
      slider.element.dispatchEvent(event);
    };
    at('pointermove', 500);
    expect(useViewing().time).toBeUndefined();
    at('pointerdown', 500);
    expect(useViewing().time).toBeCloseTo(total / 2, 6);
    at('pointermove', 250);
    expect(useViewing().time).toBeCloseTo(total / 4, 6);
    await nextTick();
    expect(slider.attributes('aria-valuenow')).toBe(String(Math.round(total / 4)));
    expect(slider.attributes('aria-valuetext')).toMatch(/^0:\d\d of 0:\d\d$/);
    await slider.trigger('keydown', { key: 'ArrowRight', shiftKey: true });
    expect(useViewing().time).toBeCloseTo(total / 4 + 10, 6);
    at('pointermove', TAPE_WIDTH);
    expect(useViewing().time).toBeUndefined();
    at('pointerup', 10);
    at('pointermove', 10);
    expect(useViewing().time).toBeUndefined();
  });

  test('replays at the chosen speed from the start to the end, and stops there', async () => {
    const frames: FrameRequestCallback[] = [];
    const clock = jest.spyOn(performance, 'now').mockReturnValue(1000);
    const request = jest.spyOn(window, 'requestAnimationFrame').mockImplementation((f) => frames.push(f));
    await layOnBench();
    const tape = show(SewTape);
    choose(tape, 'Replay speed', 5);
    await tape.find('.play').trigger('click');
    expect([useViewing().isPlaying, useViewing().time]).toEqual([true, 0]);
    frames.shift()!(2000);
    expect(useViewing().time).toBeCloseTo(5, 6);
    frames.shift()!(2500);
    expect(useViewing().time).toBeCloseTo(7.5, 6);
    frames.shift()!(60_000);
    expect([useViewing().isPlaying, useViewing().time, frames.length]).toEqual([false, undefined, 0]);
    for (const spy of [clock, request]) spy.mockRestore();
  });
});
