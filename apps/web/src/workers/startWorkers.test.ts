import { afterAll, beforeEach, describe, expect, test } from '@jest/globals';

/** A worker that takes messages and never answers. */
class StandInWorker extends EventTarget {
  isRunning = true;
  readonly heard: unknown[] = [];
  readonly address: URL;
  constructor(address: URL) {
    super();
    this.address = address;
    started.push(this);
  }
  postMessage(message: unknown): void {
    this.heard.push(message);
  }
  terminate(): void {
    this.isRunning = false;
  }
}

const started: StandInWorker[] = [];
const { Worker: real, MessageChannel: realChannel } = globalThis;
Object.assign(globalThis, {
  Worker: StandInWorker,
  MessageChannel: class {
    port1 = { postMessage: () => undefined, addEventListener: () => undefined, start: () => undefined };
    port2 = this.port1;
  },
});
afterAll(() => void Object.assign(globalThis, { Worker: real, MessageChannel: realChannel }));
const { nextProgramNumber, prepareWorkers, startEngine } = await import('./startWorkers.ts');

const engines = (): StandInWorker[] => started.filter(({ address }) => address.href.includes('engine'));
beforeEach(() => void started.splice(0));

describe('workers', () => {
  test('an engine that dies rejects what it was asked, is ended, and says why; what it is asked after that is rejected, too', async () => {
    const deaths: string[] = [];
    const { engine } = startEngine((error) => deaths.push(error.message));
    const asked = engine.readAnew();
    const [worker] = engines();
    worker!.dispatchEvent(new ErrorEvent('error', { message: 'out of memory' }));
    await expect(asked).rejects.toThrow('out of memory');
    expect([deaths, worker!.isRunning]).toEqual([['out of memory'], false]);
    await expect(engine.proposeOpening(100)).rejects.toThrow('out of memory');
  });

  test('a message that does not read is a death like any other', async () => {
    const deaths: string[] = [];
    const { engine } = startEngine((error) => deaths.push(error.message));
    const asked = engine.predict('now');
    engines()[0]!.dispatchEvent(new Event('messageerror'));
    await expect(asked).rejects.toThrow('a worker stopped');
    expect(deaths).toEqual(['a worker stopped']);
  });

  test('one is made ready once and used for the job that is opened next; stopping ends it', () => {
    prepareWorkers();
    prepareWorkers();
    expect(engines()).toHaveLength(1);
    const { stop } = startEngine(() => undefined);
    expect(engines()).toHaveLength(1);
    const second = startEngine(() => undefined);
    expect(engines()).toHaveLength(2);
    stop();
    second.stop();
    expect(engines().every((worker) => !worker.isRunning)).toBe(true);
    expect(nextProgramNumber()).not.toBe(nextProgramNumber());
  });
});
