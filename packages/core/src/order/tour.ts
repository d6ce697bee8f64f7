import { xorshift } from '../generate/fill/xorshift.ts';
import { cheapestOfAll, MOST_EXACT } from './exactTour.ts';
import { costOfTour, type TourInstance } from './tourInstance.ts';
import { TourSearch } from './TourSearch.ts';

/** A search tries so many kicks for each stop, and at least and at most so many. */
const KICKS_EACH = 12;
const LEAST_KICKS = 400;
const MOST_KICKS = 6000;
/** Beyond so many stops a table of all costs is not made; their order stays as the nearest one after another gives it. */
const MOST_STOPS = 2500;

/**
 * A cheap order of stops that keeps precedence: from the better of a given order and the nearest one next, parts are turned round and moved as long as
 * that saves something, then again after each of many small kicks, of which the ones that made it no dearer stay (iterated local search with 2-opt
 * and or-opt moves: G. A. Croes 1958, I. Or 1976; kicks after O. Martin, S. Otto, E. Felten 1991). The same for the same instance. `first` has to keep
 * precedence; it is the order of the indices where nothing is said.
 */
export function findTour(instance: TourInstance, first?: readonly number[]): number[] {
  const { count } = instance;
  const given = first === undefined ? Array.from({ length: count }, (_, k) => k) : [...first];
  if (count < 2) return given;
  if (count <= MOST_EXACT) return cheapestOfAll(instance) ?? given;
  if (count > MOST_STOPS) return cheaper(instance, given, nearestNext(instance));
  const search = new TourSearch(instance, cheaper(instance, given, nearestNext(instance)));
  search.improveAll();
  const random = xorshift(count);
  const kicks = count < 4 ? 0 : Math.max(LEAST_KICKS, Math.min(MOST_KICKS, KICKS_EACH * count));
  for (let k = 0; k < kicks; k++) search.kick(random);
  return [...search.order];
}

function cheaper(instance: TourInstance, a: number[], b: number[]): number[] {
  return costOfTour(instance, b) < costOfTour(instance, a) ? b : a;
}

/** Goes from each stop to the cheapest next one that nothing has to come before. */
function nearestNext({ count, cost, begin, before }: TourInstance): number[] {
  const waits = Array.from({ length: count }, (_, k) => before?.[k]?.length ?? 0);
  const after = Array.from({ length: count }, (): number[] => []);
  before?.forEach((list, k) => list.forEach((b) => after[b]!.push(k)));
  const left = new Set(Array.from({ length: count }, (_, k) => k));
  const order: number[] = [];
  while (left.size > 0) {
    const last = order[order.length - 1];
    let [best, least] = [-1, Infinity];
    for (const k of left) {
      if (waits[k]! > 0) continue;
      const way = last === undefined ? (begin?.(k) ?? 0) : cost(last, k);
      if (way < least) [best, least] = [k, way];
    }
    order.push(best);
    left.delete(best);
    for (const k of after[best]!) waits[k]!--;
  }
  return order;
}
