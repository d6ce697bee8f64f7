/** @jest-environment node */
import { beforeEach, describe, expect, test } from '@jest/globals';
import { createEngine } from '../workers/createEngine.ts';
import { askForJob, expectJob, openJob } from './loadJob.ts';
import { serveFrom } from './testing/browser.ts';
import { StandInServer } from './testing/StandInServer.ts';

let server: StandInServer;
beforeEach(async () => {
  server = new StandInServer();
  server.journals.set('one', []).set('two', []);
  await serveFrom(server);
});

const unheard = (): void => undefined;
const filesAsked = (): number => server.asked.filter((part) => part === 'file').length;

describe('what a job is opened with', () => {
  test('its file is asked for once where it was expected, and used for no other job and not twice', async () => {
    expectJob('one');
    const engine = createEngine();
    const { opened, detail } = await openJob(engine, askForJob(engine, 'one', unheard), 'one', unheard, 1);
    expect([filesAsked(), detail.id, opened.now.figures.stitches > 0]).toEqual([1, 'one', true]);
    await openJob(engine, askForJob(engine, 'one', unheard), 'one', unheard, 2);
    expect(filesAsked()).toBe(2);
    expectJob('two');
    await askForJob(engine, 'one', unheard).file;
    expect(filesAsked()).toBe(4);
  });

  test('what goes wrong is told to who waits for it, and a job that was only expected may be gone', async () => {
    expectJob('gone');
    const engine = createEngine();
    const asked = askForJob(engine, 'gone', unheard);
    await expect(openJob(engine, asked, 'gone', unheard, 1)).rejects.toThrow('It may have been deleted');
    await expect(asked.file).rejects.toThrow();
    await expect(engine.open(server.baseJson, [], 1)).rejects.toThrow('no file was read');
    await expect(engine.read(new TextEncoder().encode('no stitches here'))).rejects.toThrow();
  });
});
