import { describe, expect, jest, test } from '@jest/globals';
import type { SewOutPhoto, SewOutRecord } from '@isola/contract';
import { defaultTarget, type PhotoPoint, writeStitchCsv } from '@isola/core';
import { flushPromises } from '@vue/test-utils';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import { AT, buttonIn, click, file, said, setTheStage, show, stage } from '../testing/onScreens.ts';
import '../../workers/testing/quietWorkers.ts';

jest.unstable_mockModule('../../bench/cloth/ClothView.vue', () => ({
  default: { props: ['label'], template: '<figure><slot :view="{ x: 0, y: 0, scale: 4 }" :size="{ width: 400, height: 300 }" /></figure>' },
}));
const { useNotices } = await import('../../stores/notices.ts');
const { useSewOuts } = await import('../../stores/sewOuts.ts');
const { default: PhotoLaying } = await import('./PhotoLaying.vue');
const { default: PhotoOver } = await import('./PhotoOver.vue');
const { default: PhotoStrip } = await import('./PhotoStrip.vue');

setTheStage();

const point = (px: number, py: number, x: number, y: number): PhotoPoint => ({ photo: { x: px, y: py }, design: { x, y } });
/** Ten pixels to the millimetre, from straight above. */
const LAID = [point(0, 0, -20, 15), point(400, 0, 20, 15), point(0, 300, -20, -15)];
const photo = (points: readonly PhotoPoint[] | null = null): SewOutPhoto => ({
  id: 'p1',
  name: 'sample.jpg',
  width: 400,
  height: 300,
  points,
});
const record = (...photos: SewOutPhoto[]): SewOutRecord =>
  ({ id: 's1', jobId: 'one', jobName: 'One', version: 0, sewOut: {}, photos, createdAt: AT }) as unknown as SewOutRecord;

describe('a photo of a sample', () => {
  test('lies over the design at its size: each pixel where three points say, whatever part of the cloth is seen', async () => {
    const over = await show(PhotoOver, {
      photo: photo(LAID),
      view: { x: 5, y: -2, scale: 8 },
      size: { width: 800, height: 600 },
      share: 0.6,
    });
    const { style } = over.find('img').element;
    expect(style.opacity).toBe('0.6');
    const [a, b, c, d, e, f] = /matrix\(([^)]*)\)/.exec(style.transform)![1]!.split(',').map(Number) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    // The photo's corner is at −20, 15 mm: 25 mm left of the middle and 17 above it.
    expect([a, b, c, d].map((v) => Math.round(v * 1000) / 1000 + 0)).toEqual([0.8, 0, 0, 0.8]);
    expect([e, f]).toEqual([400 - 25 * 8, 300 - 17 * 8]);
    const bare = await show(PhotoOver, { photo: photo(), view: { x: 0, y: 0, scale: 8 }, size: { width: 800, height: 600 }, share: 1 });
    expect(bare.find('img').exists()).toBe(false);
  });

  test('is laid by three points that arrow keys move in both; what the server refuses is said, and nothing is closed', async () => {
    const opened = await openOn(createEngine(), new TextEncoder().encode(writeStitchCsv(file)), defaultTarget());
    const closed: true[] = [];
    const laying = await show(PhotoLaying, { photo: photo(), shown: { number: 1, view: opened.now }, onClose: () => closed.push(true) });
    const points = laying.findAll('.point');
    expect(points).toHaveLength(6);
    const [inPhoto] = points;
    const left = (): number => parseFloat((inPhoto!.element as HTMLElement).style.left);
    const before = left();
    await inPhoto!.trigger('keydown', { key: 'ArrowRight' });
    await inPhoto!.trigger('keydown', { key: 'ArrowRight', shiftKey: true });
    expect(left() - before).toBeCloseTo(11, 3);
    await points[3]!.trigger('keydown', { key: 'ArrowUp' });
    stage.answers = () => record(photo(LAID));
    await click(laying, /Lay it over the design/);
    const [, path, body] = stage.asked.at(-1)!;
    expect(path).toBe('/sew-outs/photos/p1');
    const sent = (body as { points: PhotoPoint[] }).points;
    // A pixel of the screen is a millimetre here, and up is up.
    expect(sent[0]!.design.y - opened.now.figures.extents.maxY).toBeCloseTo(1, 6);
    expect(closed).toHaveLength(1);
    await click(laying, /Not now/);
    expect(closed).toHaveLength(2);
  });

  test('is sent once the browser can show it, says when it was taken at a slant, and is deleted', async () => {
    const slanted = [LAID[0]!, LAID[1]!, point(0, 300, -20, -18)];
    useSewOuts().record = record({ ...photo(slanted) });
    const strip = await show(PhotoStrip, { share: 0.7 });
    expect(said(strip)).toContain('taken at a slant: 10 % wider one way');
    const picker = strip.find<HTMLInputElement>('input[type=file]');
    const choose = async (name: string): Promise<void> => {
      Object.defineProperty(picker.element, 'files', { value: [new File(['x'], name)], configurable: true });
      await picker.trigger('change');
      await flushPromises();
    };
    globalThis.createImageBitmap = () => Promise.reject(new Error('no'));
    await choose('notes.txt');
    expect([useNotices().notice?.text, stage.asked.length]).toEqual([expect.stringContaining('notes.txt is no picture'), 0]);
    globalThis.createImageBitmap = (() => Promise.resolve({ close: () => undefined })) as unknown as typeof createImageBitmap;
    stage.answers = (method) => (method === 'DELETE' ? record() : record(photo(LAID), { ...photo(), id: 'p2', name: 'back.jpg' }));
    await choose('back.jpg');
    expect(stage.asked.at(-1)!.slice(0, 2)).toEqual(['POST', '/sew-outs/s1/photos']);
    expect(strip.findAll('li').map((one) => said(one))).toEqual([
      expect.stringContaining('Show on the cloth'),
      expect.stringMatching(/back\.jpg\s*Lay it over the design/),
    ]);
    buttonIn(strip.findAll('li')[1]!.element, /^\s*Delete/).click();
    await flushPromises();
    expect(strip.findAll('li')).toHaveLength(0);
    expect(said(strip)).toContain('can be laid over the design');
  });
});
