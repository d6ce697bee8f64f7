import { adaptThread, type Design, measureSpecs, proposeOpening, type TriedSpecs, trySpecs } from '@isola/core';
import { transfer } from 'comlink';
import type { ClothApi } from './clothProtocol.ts';
import type { createCovers } from './createCovers.ts';
import { buffersOf, handOver, lightView } from './designViews.ts';
import type { EngineApi } from './protocol.ts';

/** What the engine has in hand. */
interface InHand {
  readonly design: () => Design;
  /** Programs that the drawing worker waits for go there. */
  readonly setProgram: ClothApi['setProgram'];
  readonly coverOf: ReturnType<typeof createCovers>;
  /** What is tried from now on. */
  readonly setTrial: (design: Design) => void;
}

type SpecWork = Pick<EngineApi, 'sewSpecs' | 'measureSewn' | 'adaptThread' | 'proposeOpening'>;

/** The part of the engine that sews objects to other specs. */
export function createSpecWork({ design, setProgram, coverOf, setTrial }: InHand): SpecWork {
  /** What was sewn last, on which design and under which name, until it is measured. */
  let pending: { readonly on: Design; readonly name: string; readonly sewn: TriedSpecs } | undefined;

  return {
    sewSpecs(name, edits, target, coming) {
      const on = design();
      const sewn = trySpecs(on, name, edits, target);
      if ('why' in sewn) return Promise.resolve(sewn);
      pending = { on, name, sewn };
      const { program } = sewn.design;
      if (coming !== undefined) void setProgram(coming.number, handOver(program), { ...sewn.change, from: coming.from });
      return Promise.resolve({ change: sewn.change });
    },

    measureSewn() {
      if (pending?.on !== design()) return Promise.resolve(undefined);
      const { on, name, sewn } = pending;
      const { design: tried, operation, applied, refused } = sewn;
      setTrial(tried);
      const { pairs, maxCover } = measureSpecs(on, sewn, coverOf);
      const after = lightView(tried.program, tried, maxCover);
      return Promise.resolve(transfer({ after, operation, applied, refused, name, pairs }, buffersOf(after)));
    },

    adaptThread: (thread, way, scope) => Promise.resolve(adaptThread(design(), thread, way, scope)),
    proposeOpening: (budget) => Promise.resolve(proposeOpening(design(), budget)),
  };
}
