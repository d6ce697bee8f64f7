import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { createPinia, setActivePinia } from 'pinia';
import { createApp, nextTick, type Ref } from 'vue';
import '../workers/testing/quietWorkers.ts';

const { useBench } = await import('./bench.ts');
const { useLater } = await import('./useLater.ts');

let close: () => void;
/** A screen that stands on the bench. */
function screen(): Readonly<Ref<boolean>> {
  let isLater!: Readonly<Ref<boolean>>;
  const app = createApp({ setup: () => ((isLater = useLater()), () => undefined) });
  app.mount(document.createElement('div'));
  close = () => app.unmount();
  return isLater;
}

beforeEach(() => {
  jest.useFakeTimers();
  setActivePinia(createPinia());
});
afterEach(() => {
  close();
  jest.useRealTimers();
});

describe('what is built beside the cloth of a job that is being opened', () => {
  test('is built when the frame that shows its picture is over', async () => {
    const isLater = screen();
    jest.advanceTimersByTime(300);
    expect(isLater.value).toBe(false);
    useBench().notePicture(7);
    await nextTick();
    jest.advanceTimersToNextFrame();
    expect(isLater.value).toBe(false);
    jest.advanceTimersToNextFrame();
    expect(isLater.value).toBe(true);
  });

  test('waits for no picture for long, and for none where the screen is gone', () => {
    const slow = screen();
    jest.advanceTimersByTime(600);
    expect(slow.value).toBe(true);
    close();
    const left = screen();
    close();
    jest.advanceTimersByTime(5000);
    expect(left.value).toBe(false);
  });
});
