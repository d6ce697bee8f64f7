import { countLevels, findLayers, recognizeProgram } from '@isola/core';
import { transfer } from 'comlink';
import type { RecognizeApi } from './recognizeProtocol.ts';

/** Recognition, as its worker offers it. What it gives away it no longer holds. */
export function createRecognizer(): RecognizeApi {
  return {
    recognize(program, decisions, rebuilt, progress) {
      const { objects, ownerOfRow } = recognizeProgram(program, { decisions, rebuilt, progress });
      progress(0.95, 'laying covers on each other');
      const layers = findLayers(objects);
      const levels = countLevels(objects, layers);
      return Promise.resolve(transfer({ objects, ownerOfRow, layers, levels }, [ownerOfRow.buffer, levels.buffer]));
    },
  };
}
