import { jest } from '@jest/globals';
import { createEngine } from '../createEngine.ts';

// Imported before stores and components are (these by `await import`), it gives them workers that draw nothing, and an engine on this thread.
jest.unstable_mockModule('../startWorkers.ts', () => ({
  clothWorker: () => ({
    setObjects: () => Promise.resolve(),
    setProgram: () => Promise.resolve(),
    dropProgram: () => Promise.resolve(),
    setSewn: () => Promise.resolve(),
    setCover: () => Promise.resolve(),
  }),
  startEngine: () => ({ engine: createEngine(), stop: () => undefined, rest: () => undefined }),
  nextProgramNumber: () => 1,
}));
