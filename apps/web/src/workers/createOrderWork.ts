import {
  applyOperation,
  AS_FILED,
  type Design,
  findSeenLayers,
  layOutCopies,
  listConnectors,
  listStops,
  moveEnds,
  placeProgram,
  productionSheet,
  simulateFile,
  simulateProgram,
  type Operation,
  proposeOrder,
  proposeWay,
  regroupApplique,
  type SimpleOperation,
} from '@isola/core';
import { transfer } from 'comlink';
import { buffersOf, lightView } from './designViews.ts';
import type { DesignView, EngineApi, LayoutView, MachineView, SpecRefusal, Trial } from './protocol.ts';

/** What the engine has in hand. */
interface InHand {
  readonly design: () => Design;
  /** The whole of a design, findings and all. */
  readonly view: (design: Design) => DesignView;
  /** What is tried from now on. */
  readonly setTrial: (design: Design) => void;
}

type OrderWork = Pick<
  EngineApi,
  'tryOperation' | 'proposeOrder' | 'proposeWay' | 'tryEnds' | 'orderView' | 'regroupApplique' | 'layOut' | 'simulate'
>;

/** The part of the engine that works on the sew order and on copies in a hoop. */
export function createOrderWork({ design, view, setTrial }: InHand): OrderWork {
  /** A step that is tried, with what it comes to. */
  function tried<T extends object>(next: Design, after: DesignView, operation: Operation, name: string, more: T): Trial & T {
    setTrial(next);
    return transfer({ after, operation, applied: [], refused: [], name, ...more }, buffersOf(after));
  }

  return {
    simulate(file): Promise<MachineView> {
      const { program, target, kept } = design();
      const placed = placeProgram(program, target.place);
      const { program: sewn, ...run } =
        file === undefined ? simulateProgram(placed, target.machine, target.hoop) : simulateFile(file, placed, target.machine, target.hoop);
      // It lies in the hoop already.
      const view = lightView(sewn, { target: { ...target, place: AS_FILED }, kept }, 0);
      return Promise.resolve(
        transfer(
          { view, run, turns: productionSheet(file === undefined ? design() : { program: sewn, target, kept }).turns },
          buffersOf(view),
        ),
      );
    },

    tryOperation(name, operation): Promise<Trial | SpecRefusal> {
      const next = applyOperation(design(), operation);
      return Promise.resolve(next.ok ? tried(next.value, view(next.value), operation, name, {}) : { why: next.error });
    },

    proposeOrder(ask): Promise<Trial> {
      const { operations, design: next, ...order } = proposeOrder(design(), ask);
      return Promise.resolve(tried(next, view(next), sequence(operations), 'proposed order', { order }));
    },

    layOut(layout): Promise<LayoutView | SpecRefusal> {
      const laid = layOutCopies(design(), layout);
      if (!laid.ok) return Promise.resolve({ why: laid.error });
      const { program, placed, most, mostTurned } = laid.value;
      const { place: _, ...target } = design().target;
      // The place on a garment is that of one piece.
      const shown = lightView(program, { target: { ...target, garment: null }, kept: {} }, 0);
      return Promise.resolve(transfer({ view: shown, placed, most, mostTurned }, buffersOf(shown)));
    },

    regroupApplique: () => {
      const found = regroupApplique(design());
      return Promise.resolve(found.ok ? { ok: true as const, value: sequence(found.value.operations) } : found);
    },

    tryEnds(id, wanted) {
      const moved = moveEnds(design(), id, wanted);
      if (!moved.ok) return Promise.resolve({ why: moved.error });
      const operation = sequence(moved.value.operations);
      const next = applyOperation(design(), operation);
      if (!next.ok) return Promise.resolve({ why: next.error });
      const name = `${design().plan.objects[id]!.name}: ${wanted.from === undefined ? 'ended' : 'begun'} elsewhere`;
      const after = lightView(next.value.program, next.value, 0);
      return Promise.resolve(tried(next.value, after, operation, name, { ends: moved.value }));
    },

    proposeWay: (id, isCutForbidden) => Promise.resolve(proposeWay(design(), id, isCutForbidden)),

    orderView() {
      const { plan } = design();
      return Promise.resolve({ connectors: listConnectors(design()), seen: findSeenLayers(plan), stops: listStops(plan) });
    },
  };
}

function sequence(operations: readonly SimpleOperation[]): Operation {
  return { id: 'sequence', operations: [...operations] };
}
