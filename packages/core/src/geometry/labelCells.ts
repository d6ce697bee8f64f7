/**
 * Groups of cells of a grid (row by row, `columns` wide) that touch by an edge and have one mark, each as the list of its cell numbers in
 * order of discovery. Cells marks 0 belong to none. O(cells).
 */
export function labelCells(marks: Uint16Array, columns: number): number[][] {
  const seen = new Uint8Array(marks.length);
  const groups: number[][] = [];
  for (let start = 0; start < marks.length; start++) {
    if (!marks[start] || seen[start]) continue;
    const group = [start];
    seen[start] = 1;
    for (let k = 0; k < group.length; k++) {
      const cell = group[k]!;
      const column = cell % columns;
      if (column > 0) visit(cell - 1, group);
      if (column < columns - 1) visit(cell + 1, group);
      if (cell >= columns) visit(cell - columns, group);
      if (cell + columns < marks.length) visit(cell + columns, group);
    }
    groups.push(group);
  }
  return groups;

  function visit(cell: number, group: number[]): void {
    if (marks[cell] !== marks[group[0]!] || seen[cell]) return;
    seen[cell] = 1;
    group.push(cell);
  }
}
