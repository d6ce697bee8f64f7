import Papa from 'papaparse';
import type { ProductionSheet } from './productionSheet.ts';

export const THREAD_COLUMNS = ['needle', 'thread', 'color', 'one piece m', 'order m', 'cones'] as const;

/** The threads of an order as CSV (RFC 4180, with a header row): estimates of length, cones for all pieces, not rounded up. */
export function threadListCsv({ threads }: Pick<ProductionSheet, 'threads'>): string {
  const rows = threads.map(({ needle, name, color, onePiece, order, cones }) => [
    ...[needle, name, color],
    ...[onePiece.toFixed(2), order.toFixed(1), cones.toFixed(3)],
  ]);
  return `${Papa.unparse([[...THREAD_COLUMNS], ...rows])}\r\n`;
}
