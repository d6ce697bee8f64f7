import type { StitchRole } from '@isola/core';
import type { ClothObjects, ShownPart } from '../../workers/clothProtocol.ts';

/** Which purposes each part shows. Travel is shown with its ties: both only lead from one place to another. */
const ROLES: Readonly<Record<'cover' | 'underlay' | 'travel', readonly StitchRole[]>> = {
  cover: ['cover'],
  underlay: ['underlay', 'placement', 'tackdown'],
  travel: ['travel', 'tie'],
};

/** 1 for each row that a part shows; none where it shows all, or while objects are not known. */
export function maskOfPart(rowCount: number, objects: ClothObjects | undefined, part: ShownPart): Uint8Array | undefined {
  if (part === 'all' || objects === undefined) return undefined;
  const isShown =
    typeof part === 'string' ? objects.roles.map((role) => ROLES[part].includes(role)) : objects.roles.map((_, k) => part.includes(k));
  const mask = new Uint8Array(rowCount);
  for (let i = 0; i < rowCount; i++) if (isShown[objects.ownerOfRow[i]!] === true) mask[i] = 1;
  return mask;
}
