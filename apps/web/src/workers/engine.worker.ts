import { expose, type Remote, wrap } from 'comlink';
import type { ClothProgramsApi } from './clothProtocol.ts';
import { createEngine } from './createEngine.ts';
import type { EngineWorkerApi } from './protocol.ts';

let cloth: Remote<ClothProgramsApi> | undefined;

const engine: EngineWorkerApi = {
  ...createEngine(async (...program) => cloth?.setProgram(...program)),
  connect(port) {
    cloth = wrap<ClothProgramsApi>(port);
    return Promise.resolve();
  },
};

expose(engine);
