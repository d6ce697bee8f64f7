import type { Program } from '../../model/program.ts';
import { measureFill } from '../fill/measureFill.ts';
import { measureSatin } from '../column/measureSatin.ts';
import type { Measured } from './piece.ts';
import type { RowSet } from './rows.ts';

/** Rows farther apart than this (same-direction pitch, mm) are straights of a line. */
export const OPENEST = 6;

/** What rows were made with, as those of a fill or as the throws of a satin. O(rows). */
export function measureRows(program: Program, rows: RowSet, kind: 'fill' | 'satin'): Measured {
  return kind === 'fill' ? { kind, ...measureFill(program, rows) } : { kind, ...measureSatin(program, rows) };
}
