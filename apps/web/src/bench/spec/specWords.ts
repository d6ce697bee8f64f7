import { isOpenFill, type ObjectSpec, type SpecKind } from '@isola/core';

/** Ways to sew as they are spoken of: some are one kind with another value. */
export const MANNERS: readonly {
  readonly name: string;
  readonly kind: SpecKind;
  readonly values: Partial<ObjectSpec>;
  readonly is: (s: ObjectSpec) => boolean;
}[] = [
  { name: 'run', kind: 'run', values: { passes: 1 }, is: (s) => s.kind === 'run' && s.passes === 1 },
  { name: 'double run', kind: 'run', values: { passes: 2 }, is: (s) => s.kind === 'run' && s.passes === 2 },
  { name: 'triple run', kind: 'run', values: { passes: 3 }, is: (s) => s.kind === 'run' && s.passes >= 3 },
  { name: 'satin', kind: 'satin', values: {}, is: (s) => s.kind === 'satin' },
  { name: 'fill', kind: 'fill', values: {}, is: (s) => s.kind === 'fill' && !isOpenFill(s) },
  { name: 'open fill', kind: 'fill', values: { spacing: 1.5, underlay: [], isOpen: undefined }, is: isOpenFill },
  { name: 'contour', kind: 'contour', values: {}, is: (s) => s.kind === 'contour' },
  { name: 'meander', kind: 'meander', values: {}, is: (s) => s.kind === 'meander' },
  { name: 'edge stitch', kind: 'edge-stitch', values: {}, is: (s) => s.kind === 'edge-stitch' },
];

export const OFFSETS = [
  ['0.25', 'a quarter'],
  ['0.3', 'three tenths'],
  ['0.333', 'a third'],
  ['0.5', 'half'],
  ['random', 'chance'],
] as const;
export const ROW_ENDS = [
  ['slanted', 'slanting over'],
  ['square', 'square'],
] as const;
export const TIES = [
  ['to-and-fro', 'to and fro'],
  ['triangle', 'small triangle'],
  ['none', 'none'],
] as const;

/** A fill that was read from stitches can have its rows where they were, or on the lines that all new fills share. */
export const GRIDS = [
  ['own', 'where they were'],
  ['shared', 'on common lines'],
] as const;
