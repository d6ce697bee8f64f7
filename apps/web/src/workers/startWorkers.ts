import { type Remote, wrap } from 'comlink';
import type { ClothApi } from './clothProtocol.ts';
import type { EngineApi } from './protocol.ts';
import type { RecognizeApi } from './recognizeProtocol.ts';

let cloth: Remote<ClothApi> | undefined;

/** The drawing worker, one for the whole application, started when first asked for. */
export function clothWorker(): Remote<ClothApi> {
  cloth ??= wrap<ClothApi>(new Worker(new URL('./cloth.worker.ts', import.meta.url), { type: 'module' }));
  return cloth;
}

/** A worker that computes for one job; `stop` ends it with all it holds. */
export function startEngine(): { engine: Remote<EngineApi>; stop: () => void } {
  const worker = new Worker(new URL('./engine.worker.ts', import.meta.url), { type: 'module' });
  return { engine: wrap<EngineApi>(worker), stop: () => worker.terminate() };
}

interface RunningRecognizer {
  readonly worker: Worker;
  readonly recognizer: Remote<RecognizeApi>;
}

let idle: RunningRecognizer | undefined;

/**
 * A worker that recognizes objects. `stop` ends it in the midst of its work; `rest` keeps it for the next time, when it has its code loaded and
 * warm.
 */
export function startRecognizer(): { recognizer: Remote<RecognizeApi>; stop: () => void; rest: () => void } {
  const running = idle ?? newRecognizer();
  idle = undefined;
  return {
    recognizer: running.recognizer,
    stop: () => running.worker.terminate(),
    rest: () => {
      if (idle === undefined) idle = running;
      else running.worker.terminate();
    },
  };
}

function newRecognizer(): RunningRecognizer {
  const worker = new Worker(new URL('./recognize.worker.ts', import.meta.url), { type: 'module' });
  // The two stay together: a worker whose remote is let go ends its service.
  return { worker, recognizer: wrap<RecognizeApi>(worker) };
}

let programs = 0;

/** A number for a program that is handed to the drawing worker, never used twice. */
export function nextProgramNumber(): number {
  return ++programs;
}
