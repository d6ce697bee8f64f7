import type { Design } from '../../model/design.ts';
import { type Block, exitOf, type LinkWay, type LinkWish, type ObjectId, orderOf, type Plan, readRows } from '../../model/plan.ts';
import { JUMP, type Program, STITCH, STOP, TRIM } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { Point, StitchObject } from '../../model/stitchObject.ts';
import { remember } from '../../model/remember.ts';
import type { Machine } from '../../model/target.ts';
import { threadThickness } from '../../model/thread.ts';
import { runClock, type RunTotals } from '../../measure/runClock.ts';
import { findColorOrder } from '../../order/colorOrder.ts';
import { HIDDEN_STITCH, HiddenWays } from '../../order/hiddenWays.ts';
import { findSeenLayers, type SeenLayers } from '../../order/seenLayers.ts';
import { changedPicture, type TopPicture, topPicture } from '../../order/topPicture.ts';
import { findTour } from '../../order/tour.ts';
import { assemble } from '../../plan/assemble.ts';
import { CARRY } from '../../plan/joining.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { printOrder } from '../operations/printOf.ts';
import { sewSpecs } from '../sewSpecs.ts';
import { type EndsChoice, endsOf } from './objectEnds.ts';
import { placesToMeet } from './placesToMeet.ts';

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

/** A way between two objects that are sewn one after the other with one thread on. */
export interface Connector {
  readonly from: ObjectId;
  readonly to: ObjectId;
  readonly how: Exclude<LinkWay, 'as-found'>;
  /** Where it leads, both ends included, xyxy, mm. */
  readonly points: readonly number[];
  /** Between the two penetrations, or along the path, mm. */
  readonly length: number;
  /** An estimate of what it takes on the machine. */
  readonly seconds: number;
  /** What somebody wants there. */
  readonly wish?: LinkWish;
  /** Why it is what it is: what hides it, or what keeps it from being hidden. */
  readonly why: string;
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

/** An object that is sewn anew for its ends counts as if it took so many seconds more: half a trim. */
const SEWN_ANEW = 4;
const TURNED = 0.05;
/** A hidden path is some longer than the straight way. */
const DETOUR = 1.15;
/** Ways that turned out not to be hidden are known, and ends chosen anew, so many times. */
const ROUNDS = 4;
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
  const colors =
    parts.has('colors') && ask.only === undefined ? orderColors(design.plan, layers, ask) : { blocks: design.plan.blocks, isFewest: false };
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
      return { ...found, before, after, moved: movesBetween(design.plan, found.design.plan), changed, isFewest: colors.isFewest };
    }
  const nothing = { operations: [], design, before, after: before, moved: [], turned: [], sewn: [], changed: 0, isFewest: colors.isFewest };
  return { ...nothing, connectors: listConnectors(design) };

  /** Orders to be tried, the one that promises most first. */
  function* ordersFor(maySew: boolean): Generator<readonly Block[]> {
    if (parts.has('objects')) yield orderObjects(design, colors.blocks, layers, ask, isConnected, maySew);
    yield colors.blocks;
    if (colors.blocks !== design.plan.blocks) yield design.plan.blocks;
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

/** Blocks in an order with the fewest color changes; the plan's own where it has no more than that. */
function orderColors(plan: Plan, { ids, layers }: SeenLayers, { hold }: OrderAsk): { blocks: readonly Block[]; isFewest: boolean } {
  const names: string[] = [];
  const colors = plan.blocks.flatMap(({ id, thread, keep, objects }) => {
    const name = keep === true ? `block ${id}` : JSON.stringify([thread?.color, thread?.name]);
    if (!names.includes(name)) names.push(name);
    return objects.map(() => names.indexOf(name));
  });
  const before = ids.map((): number[] => []);
  for (const { over, under } of layers) before[over]!.push(under);
  let stage = 0;
  let wasHeld = false;
  const stages = ids.map((id, k) => {
    const isHeld = plan.objects[id]!.isLocked === true || hold?.has(id) === true;
    if (k > 0 && (isHeld || wasHeld || hasStop(plan, id))) stage++;
    wasHeld = isHeld;
    return stage;
  });
  const found = findColorOrder({ colors, before, stages });
  if (found === undefined || found.blocks.length >= plan.blocks.length) return { blocks: plan.blocks, isFewest: found?.isFewest === true };
  const threadOf = new Map(plan.blocks.flatMap((block) => block.objects.map((id) => [id, block])));
  const used = new Set<string>();
  const blocks = found.blocks.map(({ objects }): Block => {
    const own = objects.map((k) => ids[k]!);
    const from = threadOf.get(own[0]!)!;
    const id = own.map((o) => threadOf.get(o)!.id).find((name) => !used.has(name)) ?? `${own[0]!}.block`;
    used.add(id);
    return { id, thread: from.thread, ...(from.keep === undefined ? {} : { keep: from.keep }), objects: own };
  });
  return { blocks, isFewest: found.isFewest };
}

/** Whether the operator has to do something before an object. */
export function hasStop({ source, links }: Plan, id: ObjectId): boolean {
  const { stop, found } = links[id]!;
  if (stop !== undefined) return stop !== null;
  if (found === null) return false;
  const { program, first, end } = readRows(source, found.rows);
  for (let i = first; i < end; i++) if (program.command[i] === STOP) return true;
  return false;
}

/** The objects within each block in an order that loses the least time between them. */
function orderObjects(
  design: Design,
  blocks: readonly Block[],
  { ids, layers }: SeenLayers,
  ask: OrderAsk,
  mayTurn: boolean,
  maySew: boolean,
): Block[] {
  const { plan, target } = design;
  const indexOf = new Map(ids.map((id, k) => [id, k]));
  const under = ids.map((): number[] => []);
  for (const layer of layers) under[layer.over]!.push(layer.under);
  const isFree = (id: ObjectId): boolean =>
    plan.objects[id]!.isLocked !== true && ask.hold?.has(id) !== true && ask.only?.has(id) !== false && !hasStop(plan, id);
  const ways = waysFor(design, blocks);
  let sewnUpTo = -1;
  return blocks.map((block): Block => {
    const { objects } = block;
    const partAt = ways.partsFrom(sewnUpTo + objects.length);
    sewnUpTo += objects.length;
    if (objects.length < 3) return block;
    const places = maySew ? placesToMeet(readingsOf(plan, objects), (place) => partAt(place) > 0) : [];
    const ends = objects.map((id, k) => {
      const choices = mayTurn && isFree(id) ? endsOf(design, id, maySew, places[k]) : endsOf(design, id, false).slice(0, 1);
      return { ins: guessEnds(choices, 'from', partAt), outs: guessEnds(choices, 'to', partAt) };
    });
    const cost = (a: number, b: number): number => {
      // The nearest of all pairs of ends, and of those that a hidden path may join.
      let [near, least] = [Infinity, Infinity];
      for (const out of ends[a]!.outs)
        for (const into of ends[b]!.ins) {
          const way = (out.at.x - into.at.x) ** 2 + (out.at.y - into.at.y) ** 2;
          const isHidden = out.part > 0 && out.part === into.part;
          if (!isHidden && way > CARRY * CARRY && way >= near) continue;
          near = Math.min(near, way);
          least = Math.min(least, guessSeconds(target.machine, out.at, into.at, isHidden) + out.extra + into.extra);
        }
      return least;
    };
    const local = new Map(objects.map((id, k) => [indexOf.get(id)!, k]));
    const before = objects.map((id, k): number[] => [
      ...under[indexOf.get(id)!]!.flatMap((u) => local.get(u) ?? []),
      // What may not move keeps its place among all others: each after those before it, and before those after it.
      ...(isFree(id) ? lastHeld(objects, k, isFree) : objects.slice(0, k).map((_, n) => n)),
    ]);
    return { ...block, objects: findTour({ count: objects.length, cost, before }).map((k) => objects[k]!) };
  });
}

/** An end that an object can have: what hidden part it lies in, and what it counts to have it there, seconds. */
interface GuessedEnd {
  readonly at: Point;
  readonly part: number;
  readonly extra: number;
}

/** Each place that an object can begin or end at, once. */
function guessEnds(choices: readonly EndsChoice[], end: 'from' | 'to', partAt: (place: Point) => number): GuessedEnd[] {
  const own = choices[0]![end];
  const out = new Map<string, GuessedEnd>();
  for (const choice of choices) {
    const at = choice[end];
    const isSewn = choice.how === 'sewn' && (at.x !== own.x || at.y !== own.y);
    const key = `${at.x} ${at.y}`;
    const extra = isSewn ? SEWN_ANEW / 2 : 0;
    if ((out.get(key)?.extra ?? Infinity) > extra) out.set(key, { at, part: partAt(at), extra });
  }
  return [...out.values()];
}

/** The last object before one that has to keep its place; whatever comes after that one in the file comes after it. */
function lastHeld(objects: readonly ObjectId[], k: number, isFree: (id: ObjectId) => boolean): number[] {
  for (let n = k - 1; n >= 0; n--) if (!isFree(objects[n]!)) return [n];
  return [];
}

function readingsOf(plan: Plan, ids: readonly ObjectId[]): StitchObject[] {
  return ids.map((id) => plan.objects[id]!.sewn.reading);
}

function waysFor({ plan, target }: Design, blocks: readonly Block[]): HiddenWays {
  const hiders = blocks.flatMap(({ thread, objects }) =>
    objects.map((id) => ({ object: plan.objects[id]!.sewn.reading, color: thread?.color ?? '' })),
  );
  return new HiddenWays(hiders, threadThickness(target.thread));
}

/** About how long it takes from one place to another with one thread. */
function guessSeconds(machine: Machine, a: Point, b: Point, mayHide: boolean): number {
  const way = Math.hypot(b.x - a.x, b.y - a.y);
  const stitch = 60 / machine.topSpeed;
  if (way <= CARRY) return way < LEAST_STEP ? 0 : stitch * (1 + way / 1000);
  if (mayHide) return stitch * Math.ceil((DETOUR * way) / HIDDEN_STITCH);
  return cutSeconds(machine, way);
}

/** Ends nearer than this (mm) are one. */
const LEAST_STEP = 0.3;

function cutSeconds(machine: Machine, way: number): number {
  return machine.trimCycle + machine.moveSettle + way / machine.moveSpeed;
}

/** A way that was looked for: what it takes, or why it cannot be. */
interface Way {
  readonly how: Connector['how'];
  readonly points?: Float64Array;
  readonly length: number;
  readonly seconds: number;
  readonly why: string;
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
    for (const [id, choice] of chooseEnds(design, blocks, ask, maySew, hidden)) {
      if (choice.turn !== undefined && perform(choice.turn)) turned.push(id);
      const edit = choice.edit?.();
      if (edit === undefined) continue;
      const made = sewSpecs(current, [edit]);
      if (made.operations.length > 0 && made.operations.every(perform)) sewn.push(id);
    }
    const ways = linksFor(current, design, ask, hidden);
    for (const operation of ways.operations) perform(operation);
    reasons = ways.reasons;
  }
  return { operations, design: current, turned, sewn, connectors: listConnectors(current, reasons) };
}

/** How each object begins and ends so that the ways between them take the least time together: by blocks, over all choices of ends. */
function chooseEnds(design: Design, blocks: readonly Block[], ask: OrderAsk, maySew: boolean, ways: HiddenWays): [ObjectId, EndsChoice][] {
  const { plan, target } = design;
  const failed = new Set<string>();
  const wayKey = (a: Point, b: Point): string => [a.x, a.y, b.x, b.y].map((v) => v.toFixed(2)).join();
  const mayChange = (id: ObjectId): boolean => ask.only?.has(id) !== false && ask.hold?.has(id) !== true;
  let first = 0;
  const chosen: [ObjectId, EndsChoice][] = [];
  for (const { objects } of blocks) {
    const partAt = ways.partsFrom(first);
    const places = maySew ? placesToMeet(readingsOf(plan, objects), (place) => partAt(place) > 0) : [];
    const choices = objects.map((id, k) => (mayChange(id) ? endsOf(design, id, maySew, places[k]) : endsOf(design, id, false).slice(0, 1)));
    const partOf = remember(partAt);
    let best: number[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      best = cheapestEnds(choices, (k, out, into) => {
        if (plan.links[objects[k + 1]!]!.wish === 'cut') return cutSeconds(target.machine, 0);
        const mayHide = partOf(out) > 0 && partOf(out) === partOf(into) && !failed.has(wayKey(out, into));
        return guessSeconds(target.machine, out, into, mayHide);
      });
      let isGood = true;
      for (let k = 0; k + 1 < objects.length; k++) {
        const [out, into] = [choices[k]![best[k]!]!.to, choices[k + 1]![best[k + 1]!]!.from];
        if (Math.hypot(out.x - into.x, out.y - into.y) <= CARRY || failed.has(wayKey(out, into))) continue;
        if (partOf(out) === 0 || partOf(out) !== partOf(into)) continue;
        if (typeof ways.find(out, into, first + k) === 'string') {
          failed.add(wayKey(out, into));
          isGood = false;
        }
      }
      if (isGood) break;
    }
    best.forEach((c, k) => {
      const choice = choices[k]![c]!;
      if (choice.how !== 'as-is') chosen.push([objects[k]!, choice]);
    });
    first += objects.length;
  }
  return chosen;
}

/** The cheapest choice of ends for objects in a row (dynamic programming over the places where they can end and begin). */
function cheapestEnds(choices: readonly (readonly EndsChoice[])[], cost: (k: number, out: Point, into: Point) => number): number[] {
  const own = (choice: EndsChoice): number => (choice.how === 'sewn' ? SEWN_ANEW : choice.how === 'turned' ? TURNED : 0);
  const from: number[][] = [];
  let sums = choices[0]?.map(own) ?? [];
  for (let k = 0; k + 1 < choices.length; k++) {
    // The cheapest choice that ends at each place, and from which of those each beginning is reached.
    const outs = new Map<Point, number>();
    choices[k]!.forEach(({ to }, a) => {
      const known = outs.get(to);
      if (known === undefined || sums[a]! < sums[known]! - 1e-9) outs.set(to, a);
    });
    const ins = new Map<Point, { readonly sum: number; readonly at: number }>();
    for (const { from: into } of choices[k + 1]!) {
      if (ins.has(into)) continue;
      let [least, at] = [Infinity, 0];
      for (const [out, a] of outs) {
        const sum = sums[a]! + cost(k, out, into);
        if (sum < least - 1e-9) [least, at] = [sum, a];
      }
      ins.set(into, { sum: least, at });
    }
    from.push(choices[k + 1]!.map((choice) => ins.get(choice.from)!.at));
    sums = choices[k + 1]!.map((choice) => ins.get(choice.from)!.sum + own(choice));
  }
  let at = sums.indexOf(Math.min(...sums));
  const out = [at];
  for (let k = from.length - 1; k >= 0; k--) {
    at = from[k]![at]!;
    out.unshift(at);
  }
  return choices.length === 0 ? [] : out;
}

/** What sets the ways of a design that are not the best they can be; ways that are as they came and cost no more stay as they came. */
export function linksFor(
  current: Design,
  origin: Design,
  ask: OrderAsk,
  ways = waysFor(current, current.plan.blocks),
): { readonly operations: readonly SimpleOperation[]; readonly reasons: ReadonlyMap<ObjectId, string> } {
  const { plan } = current;
  const operations: SimpleOperation[] = [];
  const reasons = new Map<ObjectId, string>();
  let time = 0;
  for (const { objects } of plan.blocks) {
    objects.forEach((id, k) => {
      if (k > 0 && ask.only?.has(id) !== false) {
        const way = bestWay(current, ways, objects[k - 1]!, id, time - 1);
        if (way !== undefined) reasons.set(id, way.why);
        if (way !== undefined && !isAsGood(current, origin, id, way)) operations.push(operationOf(id, way));
      }
      time++;
    });
  }
  return { operations, reasons };
}

/** Whether the way to an object stands as it came and is no dearer than another one. */
function isAsGood({ plan, program, target }: Design, { program: source }: Design, id: ObjectId, way: Way): boolean {
  const { places } = assemble(plan);
  const place = places.find((p) => p.id === id)!;
  if (plan.links[id]!.way === way.how) return way.how !== 'hidden';
  if (plan.links[id]!.way !== 'as-found' || !place.isWayFound || source.rowCount === 0) return false;
  const now = wayIn(program, place.link, place.first, target.machine);
  if (way.how === 'trim') return true;
  return now.how !== 'trim' && now.how !== 'jump' && now.seconds <= way.seconds + WORTH;
}

type SetLink = Extract<SimpleOperation, { id: 'set-link' }>;

function operationOf(object: ObjectId, { how, points }: Way): SetLink {
  if (points === undefined) return { id: 'set-link', object, way: how };
  return { id: 'set-link', object, way: how, path: Array.from(points, (v) => Math.round(v * 1000) / 1000) };
}

/** The best way between two objects, the first of which is at place `time` of the order; none where the machine has to stop between them. */
export function bestWay({ plan, target }: Design, ways: HiddenWays, before: ObjectId, id: ObjectId, time: number): Way | undefined {
  if (hasStop(plan, id)) return undefined;
  const link = plan.links[id]!;
  const [from, to] = [exitOf(plan.source, plan.objects[before]!.sewn), plan.objects[id]!.sewn.start];
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const { machine } = target;
  const stitch = 60 / machine.topSpeed;
  const cut = (why: string): Way => ({ how: 'trim', length, seconds: cutSeconds(machine, length), why });
  if (link.wish === 'cut') return cut('a cut is wanted here');
  if (length <= CARRY) return { how: 'carry', length, seconds: stitch, why: `${length.toFixed(1)} mm: one stitch carries over` };
  const path = ways.find(from, to, time);
  if (typeof path === 'string' && link.wish !== 'uncut') return cut(path);
  if (typeof path === 'string') {
    const points = openPoints(from, to);
    return { how: 'open', points, length, seconds: stitch * (points.length / 2 + 1), why: `no cut is wanted here, and ${path}` };
  }
  const names = path.under.slice(0, 3).map((k) => plan.objects[orderOf(plan)[k]!]!.name);
  const why =
    names.length === 0 ? 'on what its own thread covers' : `under ${names.join(', ')}${path.under.length > 3 ? ' and others' : ''}`;
  return { how: 'hidden', points: path.points, length: path.length, seconds: stitch * (path.points.length / 2 + 1), why };
}

/**
 * The best way to an object from the one before, as an edit and in words. Refused where the machine stops or changes the thread there, and where
 * nothing hides a path, unless a cut is forbidden: then it leads over the open cloth.
 */
export function proposeWay(
  design: Design,
  id: ObjectId,
  isCutForbidden: boolean,
): Result<{ operation: SimpleOperation; why: string }, string> {
  const { plan } = design;
  const order = orderOf(plan);
  const at = order.indexOf(id);
  const block = plan.blocks.find((b) => b.objects.includes(id));
  if (block === undefined) return fail('it is not there any more');
  if (block.objects[0] === id) return fail('another thread is put on before it');
  const wished: Plan = { ...plan, links: { ...plan.links, [id]: { ...plan.links[id]!, wish: 'uncut' } } };
  const way = bestWay({ ...design, plan: wished }, waysFor(design, plan.blocks), order[at - 1]!, id, at - 1);
  if (way === undefined) return fail('the operator has to do something before it');
  if (way.how === 'open' && !isCutForbidden) return fail(way.why.replace('no cut is wanted here, and ', ''));
  const operation = operationOf(id, way);
  return succeed({ operation: isCutForbidden ? { ...operation, wish: 'uncut' } : operation, why: way.why });
}

/** Before which objects the machine stops, with the words for the operator. */
export function listStops({ source, links, blocks }: Plan): { readonly object: ObjectId; readonly note: string }[] {
  return orderOf({ blocks }).flatMap((object) => {
    const { stop, found } = links[object]!;
    if (stop !== undefined) return stop === null ? [] : [{ object, note: stop }];
    if (found === null) return [];
    const { program, first, end } = readRows(source, found.rows);
    for (let i = first; i < end; i++) if (program.command[i] === STOP) return [{ object, note: program.notes.get(i) ?? '' }];
    return [];
  });
}

/** Walking in the open takes such steps, mm. Common practice: 2 to 2.5. */
const OPEN_STITCH = 2.5;

function openPoints(from: Point, to: Point): Float64Array {
  const count = Math.ceil(Math.hypot(to.x - from.x, to.y - from.y) / OPEN_STITCH);
  const out = new Float64Array(Math.max(0, count - 1) * 2);
  for (let k = 1; k < count; k++) out.set([from.x + ((to.x - from.x) * k) / count, from.y + ((to.y - from.y) * k) / count], 2 * k - 2);
  return out;
}

/** The ways between objects that follow each other with one thread on, as they are. */
export function listConnectors(design: Design, reasons: ReadonlyMap<ObjectId, string> = new Map()): Connector[] {
  const { plan, program, target } = design;
  const { places } = assemble(plan);
  const out: Connector[] = [];
  let ways: HiddenWays | undefined;
  for (let k = 1; k < places.length; k++) {
    const [before, place] = [places[k - 1]!, places[k]!];
    if (before.block !== place.block || hasStop(plan, place.id)) continue;
    const seen = wayIn(program, place.link, place.first, target.machine);
    const points = pointsOf(program, place.link, place.first);
    const { wish } = plan.links[place.id]!;
    // A path that was found is hidden where later covers lie on all of it.
    if (seen.how === 'open') ways ??= waysFor(design, plan.blocks);
    const isHidden = seen.how === 'open' && isCovered(points, (at) => ways!.covers(at, k - 1));
    out.push({
      ...{ from: before.id, to: place.id, points, ...seen, ...(wish === undefined ? {} : { wish }) },
      how: isHidden || plan.links[place.id]!.way === 'hidden' ? hiddenOr(seen.how) : seen.how,
      why: reasons.get(place.id) ?? '',
    });
  }
  return out;
}

/** A path in the open that lies under something is a hidden one. */
function hiddenOr(how: Connector['how']): Connector['how'] {
  return how === 'open' ? 'hidden' : how;
}

function isCovered(points: readonly number[], covers: (at: Point) => boolean): boolean {
  for (let k = 2; k + 3 < points.length; k += 2) if (!covers({ x: points[k]!, y: points[k + 1]! })) return false;
  return true;
}

/** Where the rows of a way lead, from the penetration before them on. */
function pointsOf({ x, y }: Program, link: number, first: number): number[] {
  const out: number[] = [];
  for (let i = Math.max(0, link - 1); i < first; i++)
    if (out.length === 0 || x[i] !== out.at(-2) || y[i] !== out.at(-1)) out.push(x[i]!, y[i]!);
  return out;
}

/** What the rows of a way do: cut, jump, one stitch or none, or a path in the open. */
function wayIn(program: Program, link: number, first: number, machine: Machine): Pick<Connector, 'how' | 'length' | 'seconds'> {
  const { x, y, command } = program;
  let [isCut, isJump, stitches, length] = [false, false, 0, 0];
  for (let i = Math.max(1, link); i < first; i++) {
    isCut ||= command[i] === TRIM;
    isJump ||= command[i] === JUMP;
    if (command[i] === STITCH) stitches++;
    length += Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
  }
  if (isCut) return { how: 'trim', length, seconds: cutSeconds(machine, length) };
  if (isJump) return { how: 'jump', length, seconds: machine.moveSettle + length / machine.moveSpeed };
  return { how: stitches > 1 ? 'open' : 'carry', length, seconds: (60 / machine.topSpeed) * stitches };
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
