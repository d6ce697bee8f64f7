import { type Remote, transfer, wrap } from 'comlink';
import type { ClothWorkerApi } from './clothProtocol.ts';
import type { EngineWorkerApi } from './protocol.ts';
import type { RecognizeApi } from './recognizeProtocol.ts';

let cloth: Remote<ClothWorkerApi> | undefined;

/** The drawing worker, one for the whole application, started when first asked for. */
export function clothWorker(): Remote<ClothWorkerApi> {
  cloth ??= wrap<ClothWorkerApi>(new Worker(new URL('./cloth.worker.ts', import.meta.url), { type: 'module' }));
  return cloth;
}

/** A worker that computes for one job, with a way of its own to the drawing worker; `stop` ends it with all it holds. */
export function startEngine(): { engine: Remote<EngineWorkerApi>; stop: () => void } {
  const worker = new Worker(new URL('./engine.worker.ts', import.meta.url), { type: 'module' });
  const engine = wrap<EngineWorkerApi>(worker);
  const { port1, port2 } = new MessageChannel();
  void engine.connect(transfer(port1, [port1]));
  void clothWorker().serve(transfer(port2, [port2]));
  return { engine, stop: () => worker.terminate() };
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
