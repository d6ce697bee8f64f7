import { describe, expect, jest, test } from '@jest/globals';
import { defaultTarget, encodeLayout, type Hoop, ProgramBuilder, SIMULATED_LAYOUT, writeStitchCsv } from '@isola/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import { buttonIn, click, said, setTheStage, show } from '../testing/onScreens.ts';
import '../../workers/testing/quietWorkers.ts';

jest.unstable_mockModule('../../bench/cloth/ClothView.vue', () => ({
  default: { props: ['label', 'upTo'], template: '<figure :aria-label="label" :data-rows="upTo" />' },
}));
const { useBench } = await import('../../stores/bench.ts');
const { default: MachineScreen } = await import('./MachineScreen.vue');

setTheStage();

/** Frames of the page, a tenth of a second apart, so many of them. */
let frames: FrameRequestCallback[] = [];
let now = 1000;
async function run(count: number): Promise<void> {
  for (let k = 0; k < count && frames.length > 0; k++) {
    const due = frames;
    frames = [];
    now += 100;
    due.forEach((frame) => frame(now));
  }
  await flushPromises();
}

async function onMachine(hoop: Partial<Hoop> = {}): Promise<VueWrapper> {
  frames = [];
  globalThis.requestAnimationFrame = (frame) => frames.push(frame);
  globalThis.cancelAnimationFrame = () => (frames = []);
  const out = new ProgramBuilder().color('#1f4e79', 'Deep water').jump(0, 0);
  for (let k = 0; k < 40; k++) out.stitch((k % 2) * 3, k * 0.4);
  out.trim().stop('Lay the badge fabric').color('#e0a526', 'Amber').jump(8, 0).stitch(8, 0).stitch(10, 0).stitch(12, 0);
  const target = { ...defaultTarget(), hoop: { ...defaultTarget().hoop, ...hoop } };
  const engine = createEngine();
  const opened = await openOn(engine, new TextEncoder().encode(writeStitchCsv(out.end().build())), target);
  const bench = useBench();
  bench.now = { number: 1, view: opened.now };
  bench.simulate = (file) => engine.simulate(file);
  const screen = await show(MachineScreen);
  await flushPromises();
  return screen;
}

describe('the simulated machine on screen', () => {
  test('sews at the speed that is chosen, waits at the stop, goes on when told, and begins anew at its end', async () => {
    const screen = await onMachine();
    expect(said(screen)).toMatch(/clock\s*0:00.*stitches\s*0\s*of 43.*needle/);
    await click(screen, /^\s*× 60/);
    await click(screen, /^\s*Start/);
    expect(buttonIn(screen.element as ParentNode, /^\s*Halt/)).toBeDefined();
    await run(40);
    expect(said(screen.find('[role=alert]'))).toMatch(/It waits for you\s*Lay the badge fabric/);
    expect(screen.find('figure').attributes('data-rows')).not.toBe('0');
    await click(screen, /^\s*Done, go on/);
    await run(40);
    expect(said(screen.find('[role=alert]'))).toMatch(/Done\s*The piece is sewn\./);
    expect(said(screen)).toMatch(/stitches\s*43\s*of 43.*needle\s*2\s*Amber/);
    expect(screen.findAll('li.passed')).toHaveLength(1);
    await click(screen, /^\s*Sew it again/);
    expect(said(screen)).toMatch(/clock\s*0:00/);
  });

  test('halts when told, and a thread that breaks is put right', async () => {
    const screen = await onMachine();
    const tear = () => buttonIn(screen.element as ParentNode, /^\s*Break the thread/) as HTMLButtonElement;
    expect(tear().disabled).toBe(true);
    await click(screen, /^\s*Start/);
    await run(4);
    await click(screen, /^\s*Halt/);
    const clock = screen.find('.clock').text();
    await run(10);
    expect(screen.find('.clock').text()).toBe(clock);
    await click(screen, /^\s*Break the thread/);
    expect(said(screen.find('[role=alert]'))).toContain('Thread it again');
    expect(tear().disabled).toBe(true);
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    await flushPromises();
    expect(screen.find('[role=alert]').exists()).toBe(false);
    expect(said(screen)).toContain('The thread broke once.');
  });

  test('says what it refuses, with its row and where that is put right, and stands still there', async () => {
    const screen = await onMachine({ width: 20, height: 40 });
    expect(said(screen)).toMatch(/What it refuses.*the needle would hit the frame.*row \d+ of the file/s);
    expect(screen.findAll('aside a').map((link) => link.text())).toEqual(expect.arrayContaining(['Audit', 'Take in', 'Release']));
    await click(screen, /^\s*× 60/);
    await click(screen, /^\s*Start/);
    await run(30);
    if (screen.find('[role=alert]').text().includes('badge')) await click(screen, /^\s*Done, go on/);
    await run(30);
    expect(said(screen.find('[role=alert]'))).toMatch(/It stands still.*the needle would hit the frame/);
  });

  test('sews a file that it is given, says where that is another than the design’s, and stands still where it is cut short', async () => {
    const screen = await onMachine();
    const give = async (bytes: Uint8Array): Promise<void> => {
      const picker = screen.find<HTMLInputElement>('input[type=file]');
      const file = { name: 'north.isla', arrayBuffer: () => Promise.resolve(bytes.slice().buffer) };
      Object.defineProperty(picker.element, 'files', { value: [file], configurable: true });
      await picker.trigger('change');
      await flushPromises();
      await flushPromises();
    };
    const { program } = useBench().now!.view;
    const written = encodeLayout(program, SIMULATED_LAYOUT);
    if (!written.ok) throw new Error(written.error);
    await give(written.value.bytes);
    expect(said(screen)).toMatch(/Sews north\.isla/);
    expect(said(screen)).not.toContain('It is not the file of this design');
    const altered = written.value.bytes.slice();
    altered[256 + 6 * 5] = altered[256 + 6 * 5]! ^ 1;
    await give(altered);
    expect(said(screen)).toContain('It is not the file of this design: from byte 286 on');
    await give(written.value.bytes.slice(0, 284));
    expect(said(screen)).toMatch(/What it refuses\s*Byte 280: found 4 bytes; expected a whole record of 6/);
    await click(screen, /Back to the design/);
    await flushPromises();
    expect(said(screen)).not.toContain('What it refuses');
  });
});
