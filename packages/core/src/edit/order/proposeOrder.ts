import type { Design } from '../../model/design.ts';
import { type Block, type ObjectId, orderOf, type Plan } from '../../model/plan.ts';
import { type Program, TRIM } from '../../model/program.ts';
import { runClock, type RunTotals } from '../../measure/runClock.ts';
import { findSeenLayers } from '../../order/seenLayers.ts';
import { changedPicture, type TopPicture, topPicture } from '../../order/topPicture.ts';
import { assemble } from '../../plan/assemble.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { printOrder } from '../operations/printOf.ts';
import { sewSpecs } from '../sewSpecs.ts';
import { linksFor } from './bestWay.ts';
import { chooseEnds } from './chooseEnds.ts';
import { type Connector, listConnectors } from './connector.ts';
import { waysFor } from '../../order/waysFor.ts';
import { orderColors } from '../../order/orderColors.ts';
import { orderObjects } from './orderBlocks.ts';

export const ORDER_PARTS = ['colors', 'objects', 'connectors'] as const;
/** What of an order is proposed: which thread after which, which object after which with a thread on, and the ways between them with their ends. */
export type OrderPart = (typeof ORDER_PARTS)[number];

export interface OrderAsk {
  /** All of them where nothing is said. */
  readonly parts?: readonly OrderPart[];
  /** Only these objects may move or have their ends and ways changed; all, where nothing is said. */
  readonly only?: ReadonlySet<ObjectId>;
  /** These stay where they are in the order, besides those that are locked. */
  readonly hold?: ReadonlySet<ObjectId>;
}

export interface OrderProposal {
  /** In the order they apply, as one step; empty where nothing better was found. */
  readonly operations: readonly SimpleOperation[];
  readonly design: Design;
  readonly before: RunTotals;
  readonly after: RunTotals;
  readonly moved: readonly { readonly object: ObjectId; readonly from: number; readonly to: number }[];
  /** Objects that begin or end elsewhere: their own stitches turned, or sewn anew from their spec. */
  readonly turned: readonly ObjectId[];
  readonly sewn: readonly ObjectId[];
  readonly connectors: readonly Connector[];
  /** The share of the picture whose topmost thread is of another color. */
  readonly changed: number;
  /** Whether no order with fewer color changes keeps what lies on what. */
  readonly isFewest: boolean;
}

/** A picture that changes on more of its cells than this is not proposed. */
const MOST_CHANGED = 0.002;
/** Gains below this (seconds) move nothing. */
const WORTH = 0.5;

/**
 * A proposed sew order with entries, exits and connectors: fewest color changes, then least lost time by the run clock, with what is seen on top still
 * on top. Nothing is proposed that takes longer, cuts more often, or changes the topmost picture.
 */
export function proposeOrder(design: Design, ask: OrderAsk = {}): OrderProposal {
  const parts = new Set(ask.parts ?? ORDER_PARTS);
  const layers = findSeenLayers(design.plan);
  const { plan } = design;
  const isHeld = (id: ObjectId): boolean => plan.objects[id]!.isLocked === true || ask.hold?.has(id) === true;
  const isAsked = (id: ObjectId): boolean => ask.only?.has(id) !== false;
  const colors =
    parts.has('colors') && ask.only === undefined ? orderColors(plan, layers, { isHeld }) : { blocks: plan.blocks, isFewest: false };
  const { machine } = design.target;
  const isConnected = parts.has('connectors');
  const before = runClock(design.program, machine).totals;
  const cuts = countCuts(design.program);
  const picture = ownPicture(design);
  // Sewing objects anew for their ends changes their edges a little: where that is seen too much it is done without.
  for (const maySew of isConnected ? [true, false] : [false])
    for (const blocks of ordersFor(maySew)) {
      const found = connect(design, blocks, ask, isConnected, maySew);
      const after = runClock(found.design.program, machine).totals;
      if (after.seconds > before.seconds - WORTH || countCuts(found.design.program) > cuts) continue;
      const changed = changedPicture(picture, ownPicture(found.design), found.sewn.length > 0);
      if (changed > MOST_CHANGED) continue;
      return { ...found, before, after, moved: movesBetween(plan, found.design.plan), changed, isFewest: colors.isFewest };
    }
  const nothing = { operations: [], design, before, after: before, moved: [], turned: [], sewn: [], changed: 0, isFewest: colors.isFewest };
  // What stays cut says why, also where nothing better was found.
  return { ...nothing, connectors: listConnectors(design, isConnected ? linksFor(design, ask.only).reasons : undefined) };

  /** Orders to be tried, the one that promises most first. */
  function* ordersFor(maySew: boolean): Generator<readonly Block[]> {
    if (parts.has('objects')) yield orderObjects(design, colors.blocks, layers, { isHeld, isAsked, mayTurn: isConnected, maySew });
    yield colors.blocks;
    if (colors.blocks !== plan.blocks) yield plan.blocks;
  }
}

/**
 * What is on top of what: of objects with their underlay, and of paths that are said to be hidden. Stitches that carry over are meant to be there, and
 * what ways had before is nobody's picture.
 */
function ownPicture({ plan, program }: Design): TopPicture {
  const isSeen = new Uint8Array(program.rowCount);
  for (const { id, link, first, end } of assemble(plan).places) {
    isSeen.fill(1, first, end);
    if (plan.links[id]!.way === 'hidden') isSeen.fill(1, link, first);
  }
  return topPicture(program, (row) => isSeen[row] === 1);
}

type Connected = Pick<OrderProposal, 'operations' | 'design' | 'turned' | 'sewn' | 'connectors'>;

/** The design in an order of blocks, with ends chosen together and a way between each two objects. */
function connect(design: Design, blocks: readonly Block[], ask: OrderAsk, mayTurn: boolean, maySew: boolean): Connected {
  const { plan } = design;
  const operations: SimpleOperation[] = [];
  let current = design;
  const perform = (operation: SimpleOperation): boolean => {
    const next = applyOperation(current, operation);
    if (!next.ok) return false;
    current = next.value;
    operations.push(operation);
    return true;
  };
  if (JSON.stringify(blocks) !== JSON.stringify(plan.blocks))
    perform({ id: 'set-order', was: printOrder(plan), blocks: blocks.map((block) => ({ ...block, objects: [...block.objects] })) });
  const turned: ObjectId[] = [];
  const sewn: ObjectId[] = [];
  let reasons: ReadonlyMap<ObjectId, string> = new Map();
  if (mayTurn) {
    const hidden = waysFor(design, blocks);
    const mayChange = (id: ObjectId): boolean => ask.only?.has(id) !== false && ask.hold?.has(id) !== true;
    for (const [id, choice] of chooseEnds(design, blocks, hidden, { mayChange, maySew })) {
      if (choice.turn !== undefined && perform(choice.turn)) turned.push(id);
      const edit = choice.edit?.();
      if (edit === undefined) continue;
      const made = sewSpecs(current, [edit]);
      if (made.operations.length > 0 && made.operations.every(perform)) sewn.push(id);
    }
    const ways = linksFor(current, ask.only, hidden);
    for (const operation of ways.operations) perform(operation);
    reasons = ways.reasons;
  }
  return { operations, design: current, turned, sewn, connectors: listConnectors(current, reasons) };
}

function countCuts({ command }: Program): number {
  let count = 0;
  for (const c of command) if (c === TRIM) count++;
  return count;
}

function movesBetween(before: Plan, after: Plan): OrderProposal['moved'] {
  const places = new Map(orderOf(before).map((id, k) => [id, k]));
  return orderOf(after).flatMap((object, to) => {
    const from = places.get(object)!;
    return from === to ? [] : [{ object, from, to }];
  });
}
