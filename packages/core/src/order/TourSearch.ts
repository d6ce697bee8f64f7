import type { TourInstance } from './tourInstance.ts';

/** So many other stops are tried next to each. */
const NEIGHBORS = 10;
/** Parts so long are moved elsewhere as a whole. */
const LONGEST_PART = 3;
/** Gains below this are rounding. */
const LEAST_GAIN = 1e-9;
/** Kicks stay within so many stops. */
const MOST_KICKED = 50;

/** An order while it is being made cheaper. Stop `count` stands for the begin, before all others. */
export class TourSearch {
  order: Int32Array;
  private readonly count: number;
  private readonly costs: Float64Array;
  private readonly size: number;
  private readonly near: readonly Int32Array[];
  private readonly before: readonly (readonly number[])[] | undefined;
  private place: Int32Array;
  /** Sums of costs along the order up to each place, forward and backward. */
  private readonly there: Float64Array;
  private readonly back: Float64Array;
  private total = 0;

  constructor({ count, cost, begin, before }: TourInstance, order: readonly number[]) {
    this.count = count;
    this.size = count + 1;
    this.costs = new Float64Array(this.size * this.size);
    for (let a = 0; a < count; a++) {
      for (let b = 0; b < count; b++) if (a !== b) this.costs[a * this.size + b] = cost(a, b);
      this.costs[count * this.size + a] = begin?.(a) ?? 0;
    }
    this.before = before?.some((list) => list.length > 0) === true ? before : undefined;
    this.near = Array.from({ length: count }, (_, a) => {
      const others = Array.from({ length: count }, (__, b) => b).filter((b) => b !== a);
      return Int32Array.from(others.sort((p, q) => this.either(a, p) - this.either(a, q)).slice(0, NEIGHBORS));
    });
    this.order = Int32Array.from(order);
    this.place = new Int32Array(count);
    this.there = new Float64Array(count);
    this.back = new Float64Array(count);
    this.measure();
  }

  private cost(a: number, b: number): number {
    return this.costs[a * this.size + b]!;
  }

  /** The stop at a place; the begin before the first. */
  private at(place: number): number {
    return place < 0 ? this.count : this.order[place]!;
  }

  /** Cost from the stop at a place to `to`; nothing where `to` is behind the end. */
  private step(from: number, to: number): number {
    return to < 0 ? 0 : this.cost(from, to);
  }

  private measure(): void {
    const { order, count } = this;
    let [f, b] = [this.cost(count, order[0]!), 0];
    for (let k = 0; k < count; k++) {
      if (k > 0) {
        f += this.cost(order[k - 1]!, order[k]!);
        b += this.cost(order[k]!, order[k - 1]!);
      }
      this.there[k] = f;
      this.back[k] = b;
      this.place[order[k]!] = k;
    }
    this.total = f;
  }

  improveAll(): void {
    this.improve(Array.from({ length: this.count }, (_, k) => k));
  }

  /** Makes the order cheaper from some stops on; those beside what changed are looked at again. */
  private improve(from: number[]): void {
    const waiting = [...from];
    const isWaiting = new Uint8Array(this.count);
    for (const k of waiting) isWaiting[k] = 1;
    for (let n = 0; n < waiting.length; n++) {
      const stop = waiting[n]!;
      isWaiting[stop] = 0;
      const changed = this.turnAt(stop) ?? this.moveAt(stop);
      if (changed === undefined) continue;
      for (const k of [stop, ...changed])
        if (k >= 0 && k < this.count && isWaiting[k] === 0) {
          isWaiting[k] = 1;
          waiting.push(k);
        }
    }
  }

  /** Turns the part between a stop and one of those near it round, so that the two become neighbours. */
  private turnAt(stop: number): number[] | undefined {
    const most = this.dearestAt(stop);
    for (const other of this.near[stop]!) {
      if (this.either(stop, other) >= most) return undefined;
      const [p, q] = [this.place[stop]!, this.place[other]!];
      // Stop before the part and other at its end, or other behind the part and stop at its begin: either makes them neighbours.
      for (let side = 1; side >= 0; side--) {
        const i = Math.min(p, q) + side;
        const j = Math.max(p, q) + side - 1;
        if (j <= i || !this.gainsTurned(i, j) || !this.mayTurn(i, j)) continue;
        const ends = [this.at(i - 1), this.at(i), this.at(j), j + 1 < this.count ? this.at(j + 1) : -1];
        this.order.subarray(i, j + 1).reverse();
        this.measure();
        return ends;
      }
    }
    return undefined;
  }

  private gainsTurned(i: number, j: number): boolean {
    const [a, b, c] = [this.at(i - 1), this.at(i), this.at(j)];
    const d = j + 1 < this.count ? this.at(j + 1) : -1;
    const old = this.cost(a, b) + (this.there[j]! - this.there[i]!) + this.step(c, d);
    const next = this.cost(a, c) + (this.back[j]! - this.back[i]!) + this.step(b, d);
    return next < old - LEAST_GAIN;
  }

  /** Whether nothing in a part has to come before something else in it. */
  private mayTurn(i: number, j: number): boolean {
    if (this.before === undefined) return true;
    for (let k = i; k <= j; k++)
      for (const b of this.before[this.order[k]!]!) {
        const p = this.place[b]!;
        if (p >= i && p < k) return false;
      }
    return true;
  }

  /** Moves a part that begins or ends with a stop beside one of those near it, either way round. */
  private moveAt(stop: number): number[] | undefined {
    const most = this.dearestAt(stop);
    const longest = Math.min(LONGEST_PART, this.count - 1);
    for (const other of this.near[stop]!) {
      if (this.either(stop, other) >= most) return undefined;
      const [p, q] = [this.place[stop]!, this.place[other]!];
      for (let length = 1; length <= longest; length++)
        // Parts that begin with the stop, and those that end with it.
        for (let side = 0; side < Math.min(2, length); side++) {
          const i = p - side * (length - 1);
          const j = i + length - 1;
          if (i < 0 || j >= this.count || (q >= i && q <= j)) continue;
          const changed =
            this.move(i, j, q, false) ?? this.move(i, j, q, true) ?? this.move(i, j, q - 1, false) ?? this.move(i, j, q - 1, true);
          if (changed !== undefined) return changed;
        }
    }
    return undefined;
  }

  /** The dearer of the ways to and from a stop: a new neighbour that is farther than that does not pay. */
  private dearestAt(stop: number): number {
    const p = this.place[stop]!;
    return Math.max(this.cost(this.at(p - 1), stop), p + 1 < this.count ? this.cost(stop, this.at(p + 1)) : 0);
  }

  private either(a: number, b: number): number {
    return Math.min(this.cost(a, b), this.cost(b, a));
  }

  /** Puts the part `i` to `j` behind place `behind` (−1: before all), where that is cheaper and may be. */
  private move(i: number, j: number, behind: number, isTurned: boolean): number[] | undefined {
    if (behind >= i - 1 && behind <= j) return undefined;
    const [a, b, c] = [this.at(i - 1), this.at(i), this.at(j)];
    const d = j + 1 < this.count ? this.at(j + 1) : -1;
    const e = this.at(behind);
    const f = behind + 1 < this.count ? this.at(behind + 1) : -1;
    const inside = isTurned ? this.back[j]! - this.back[i]! : this.there[j]! - this.there[i]!;
    const old = this.cost(a, b) + (this.there[j]! - this.there[i]!) + this.step(c, d) + this.step(e, f);
    const next = this.step(a, d) + inside + (isTurned ? this.cost(e, c) + this.step(b, f) : this.cost(e, b) + this.step(c, f));
    if (next >= old - LEAST_GAIN || !this.mayMove(i, j, behind) || (isTurned && !this.mayTurn(i, j))) return undefined;
    const part = this.order.slice(i, j + 1);
    if (isTurned) part.reverse();
    const { length } = part;
    if (behind > j) {
      this.order.copyWithin(i, j + 1, behind + 1);
      this.order.set(part, behind + 1 - length);
    } else {
      this.order.copyWithin(behind + 1 + length, behind + 1, i);
      this.order.set(part, behind + 1);
    }
    this.measure();
    return [a, b, c, d, e, f];
  }

  private mayMove(i: number, j: number, behind: number): boolean {
    const { before } = this;
    if (before === undefined) return true;
    const isInPart = (k: number): boolean => this.place[k]! >= i && this.place[k]! <= j;
    if (behind > j) {
      for (let k = j + 1; k <= behind; k++) if (before[this.order[k]!]!.some(isInPart)) return false;
      return true;
    }
    for (let k = i; k <= j; k++) if (before[this.order[k]!]!.some((b) => this.place[b]! > behind && this.place[b]! < i)) return false;
    return true;
  }

  /** Swaps two neighbouring parts somewhere and improves from there; what became dearer is taken back. */
  kick(random: () => number): void {
    const { count } = this;
    const reach = Math.min(count - 1, MOST_KICKED);
    const from = Math.floor(random() * (count - 2));
    const room = Math.min(reach, count - from - 1);
    const middle = from + 1 + Math.floor(random() * Math.max(1, room - 1));
    const end = Math.min(count - 1, middle + Math.floor(random() * Math.max(1, room - (middle - from))));
    const [i, j] = [from, middle - 1];
    if (end < middle || !this.mayMove(i, j, end)) return;
    const [order, total] = [this.order.slice(), this.total];
    const part = order.slice(i, j + 1);
    this.order.copyWithin(i, j + 1, end + 1);
    this.order.set(part, end + 1 - part.length);
    this.measure();
    const last = end + 1 < count ? this.at(end + 1) : -1;
    this.improve([this.at(i - 1), this.at(i), this.at(end), order[j]!, order[middle]!, last].filter((k) => k >= 0 && k < count));
    if (this.total <= total + LEAST_GAIN) return;
    this.order = order;
    this.measure();
  }
}
