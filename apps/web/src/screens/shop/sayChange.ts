import { RULES_RECORD, type Shop, type ShopChange } from '@isola/contract';
import { RULES, type ShopRules, USUAL_RULES } from '@isola/core';
import { RECORD_KINDS, sayValue, type ShopRecord } from './recordFields.ts';

/** What of the shop was changed, and what about it. */
export interface SaidChange {
  readonly title: string;
  readonly parts: readonly string[];
}

/** A change in words: what came, what went, and each value as it was and is. */
export function sayChange(shop: Shop, { kind, recordId, before, after }: ShopChange): SaidChange {
  if (kind === 'rules' || recordId === RULES_RECORD) {
    return { title: 'Rulebook', parts: sayRules((before ?? USUAL_RULES) as ShopRules, (after ?? USUAL_RULES) as ShopRules) };
  }
  const { word, fields } = RECORD_KINDS[kind];
  const [was, is] = [before as ShopRecord | null, after as ShopRecord | null];
  const title = `${word[0]!.toUpperCase()}${word.slice(1)} ${(is ?? was)?.name ?? recordId}`;
  if (was === null) return { title, parts: ['added'] };
  if (is === null) return { title, parts: ['deleted'] };
  const parts = fields
    .filter(({ key }) => was[key] !== is[key])
    .map((field) => `${field.label}: ${sayValue(shop, field, was[field.key])} → ${sayValue(shop, field, is[field.key])}`);
  if (kind === 'layouts' && JSON.stringify(was['layout']) !== JSON.stringify(is['layout'])) parts.push('Its bytes are described otherwise');
  return { title, parts };
}

/** In which limits, rules and schools two rulebooks differ. */
export function sayRules(was: ShopRules, is: ShopRules): string[] {
  const titleOf = (id: string): string => RULES.find((rule) => rule.id === id)?.title ?? id;
  const unitOf = (id: string): string => RULES.find((rule) => rule.id === id)?.unit ?? '';
  const say = (id: string, limit: number | undefined): string => (limit === undefined ? 'as usual' : `${limit} ${unitOf(id)}`);
  const ids = [...new Set([...Object.keys(was.limits), ...Object.keys(is.limits)])].filter((id) => was.limits[id] !== is.limits[id]);
  return [
    ...ids.map((id) => `${titleOf(id)}: ${say(id, was.limits[id])} → ${say(id, is.limits[id])}`),
    ...is.off.filter((id) => !was.off.includes(id)).map((id) => `${titleOf(id)}: judged → left out`),
    ...was.off.filter((id) => !is.off.includes(id)).map((id) => `${titleOf(id)}: left out → judged`),
    ...SCHOOL_KEYS.filter((key) => was.schools[key] !== is.schools[key]).map(
      (key) => `${SCHOOL_WORDS[key].title}: ${sayWay(key, was.schools[key])} → ${sayWay(key, is.schools[key])}`,
    ),
  ];
}

type SchoolKey = keyof ShopRules['schools'];

/** Where practitioners differ, in words: the question, and each way to do it. */
export const SCHOOL_WORDS: Readonly<Record<SchoolKey, { readonly title: string; readonly ways: Readonly<Record<string, string>> }>> = {
  holes: {
    title: 'Holes under details',
    ways: { 'by-size': 'sew small ones through, leave large ones', 'sew-through': 'sew through them all', carve: 'leave them all open' },
  },
  underlayOrder: {
    title: 'Underlay of fills',
    ways: { 'tatami-first': 'tatami, then edge run', 'edge-first': 'edge run, then tatami' },
  },
  thickerThread: {
    title: 'Thicker thread',
    ways: { thickness: 'spaced by its thickness', 'third-off': 'a third fewer rows' },
  },
  topping: {
    title: 'Topping over pile',
    ways: { 'over-the-nap-layer': 'also where an open layer holds the pile', without: 'not where an open layer holds the pile' },
  },
};
export const SCHOOL_KEYS = Object.keys(SCHOOL_WORDS) as SchoolKey[];

const sayWay = (key: SchoolKey, way: string): string => SCHOOL_WORDS[key].ways[way] ?? way;
