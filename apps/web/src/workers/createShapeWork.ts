import { type Design, drawShapes, editPoints, nodesOf, type Operation, type ShapeAsk, type SimpleOperation } from '@isola/core';
import { transfer } from 'comlink';
import { buffersOf } from './designViews.ts';
import type { DesignView, EngineApi, SpecRefusal, Trial } from './protocol.ts';

/** What the engine has in hand. */
interface InHand {
  readonly design: () => Design;
  readonly view: (design: Design) => DesignView;
  readonly setTrial: (design: Design) => void;
}

/** The part of the engine that draws, cuts and joins shapes. */
export function createShapeWork({ design, view, setTrial }: InHand): Pick<EngineApi, 'tryShape' | 'nodesOf' | 'editPoints'> {
  return {
    editPoints(ask) {
      const made = editPoints(design(), ask);
      if (!made.ok) return Promise.resolve(made);
      const { operations, notes, rows } = made.value;
      return Promise.resolve({ ok: true, value: { operation: asOne(operations), notes, rows } });
    },

    nodesOf: (id) => Promise.resolve(nodesOf(design(), id)),

    tryShape(name, ask: ShapeAsk): Promise<Trial | SpecRefusal> {
      const drawn = drawShapes(design(), ask, () => crypto.randomUUID());
      if (!drawn.ok) return Promise.resolve({ why: drawn.error });
      const { operations, notes, design: next } = drawn.value;
      setTrial(next);
      const after = view(next);
      const operation = asOne(operations);
      return Promise.resolve(transfer({ after, operation, applied: [], refused: [], name, notes }, buffersOf(after)));
    },
  };
}

const asOne = (operations: readonly SimpleOperation[]): Operation =>
  operations.length === 1 ? operations[0]! : { id: 'sequence', operations: [...operations] };
