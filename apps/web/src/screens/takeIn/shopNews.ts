import type { Shop, ShopKind } from '@isola/contract';
import { type Target, USUAL_RULES } from '@isola/core';
import { recordsOf, type ShopRecord } from '../shop/recordFields.ts';
import { sayChange, sayRules } from '../shop/sayChange.ts';

/** Where a job's target holds records of the shop. */
const HELD: readonly (readonly [part: 'fabric' | 'garment' | 'hoop' | 'thread' | 'madeFor' | 'machine', kind: ShopKind])[] = [
  ['fabric', 'fabrics'],
  ['garment', 'garments'],
  ['hoop', 'hoops'],
  ['thread', 'threads'],
  ['madeFor', 'threads'],
  ['machine', 'machines'],
];

/** What the shop changed since a job was given its values, in words, and the target with the new ones; nothing where they are the same. */
export function shopNews(shop: Shop, target: Target): { readonly said: readonly string[]; readonly target: Target } | undefined {
  const said: string[] = [];
  let next: Target = target;
  for (const [part, kind] of HELD) {
    const held = target[part] as ShopRecord | null | undefined;
    const record = recordsOf(shop, kind).find(({ id }) => id === held?.id);
    if (held === null || held === undefined || record === undefined) continue;
    const counted = { ...record, cones: held['cones'] };
    const { parts } = sayChange(shop, { kind, recordId: held.id, before: held, after: counted, ...UNSIGNED });
    if (parts.length === 0) continue;
    said.push(...parts.map((words) => `${held.name}: ${words}`));
    next = { ...next, [part]: record };
  }
  const rules = sayRules(target.rules ?? USUAL_RULES, shop.rules);
  if (rules.length > 0) next = { ...next, rules: shop.rules };
  said.push(...rules.map((words) => `Rulebook: ${words}`));
  return said.length === 0 ? undefined : { said, target: next };
}

const UNSIGNED = { id: '', undoes: null, who: '', why: '', at: '' };
