import { expose, type Remote, wrap } from 'comlink';
import type { ClothProgramsApi } from './clothProtocol.ts';
import { createEngine } from './createEngine.ts';
import type { EngineWorkerApi } from './protocol.ts';
import { rehearse } from './rehearse.ts';

/** Set when a job is in hand. */
let cloth: Remote<ClothProgramsApi> | undefined;

const engine: EngineWorkerApi = {
  ...createEngine(async (...program) => cloth?.setProgram(...program)),
  connect(port) {
    cloth = wrap<ClothProgramsApi>(port);
    return Promise.resolve();
  },
  rehearse: () => rehearse(() => cloth === undefined),
};

expose(engine);
