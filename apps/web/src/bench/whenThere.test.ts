import { describe, expect, test } from '@jest/globals';
import { createApp, nextTick, shallowRef } from 'vue';
import { whenThere } from './whenThere.ts';

describe('what is asked of a part of the screen', () => {
  const part = (done: string[]) => ({ does: (what: string) => done.push(what) });

  test('is done once it is there, in order, and at once from then on', async () => {
    const done: string[] = [];
    const there = shallowRef<ReturnType<typeof part> | null>(null);
    let ask!: ReturnType<typeof whenThere<ReturnType<typeof part>>>;
    const app = createApp({ setup: () => ((ask = whenThere(() => there.value)), () => undefined) });
    app.mount(document.createElement('div'));
    ask((p) => p.does('first'));
    ask((p) => p.does('second'));
    await nextTick();
    expect(done).toEqual([]);
    there.value = part(done);
    await nextTick();
    expect(done).toEqual(['first', 'second']);
    ask((p) => p.does('third'));
    expect(done).toEqual(['first', 'second', 'third']);

    // Gone and built again, it does what was asked since, and nothing twice.
    there.value = null;
    ask((p) => p.does('fourth'));
    there.value = part(done);
    await nextTick();
    expect(done).toEqual(['first', 'second', 'third', 'fourth']);
    app.unmount();
  });

  test('is forgotten where the screen is left before', async () => {
    const done: string[] = [];
    const there = shallowRef<ReturnType<typeof part>>();
    let ask!: ReturnType<typeof whenThere<ReturnType<typeof part>>>;
    const app = createApp({ setup: () => ((ask = whenThere(() => there.value)), () => undefined) });
    app.mount(document.createElement('div'));
    ask((p) => p.does('first'));
    app.unmount();
    there.value = part(done);
    await nextTick();
    expect(done).toEqual([]);
  });
});
