import { countLevels, findLayers, recognizeProgram } from '@isola/core';
import { expose, transfer } from 'comlink';
import type { RecognizeApi } from './recognizeProtocol.ts';

const api: RecognizeApi = {
  recognize(program, decisions, progress) {
    const { objects, ownerOfRow } = recognizeProgram(program, { decisions, progress });
    progress(0.95, 'laying covers on each other');
    const layers = findLayers(objects);
    const levels = countLevels(objects, layers);
    return Promise.resolve(transfer({ objects, ownerOfRow, layers, levels }, [ownerOfRow.buffer, levels.buffer]));
  },
};

expose(api);
