/** A cell by its row and column. */
export interface Cell {
  row: number;
  column: number;
}

/** The cells from one corner to the other, both included. */
export interface Area {
  from: Cell;
  to: Cell;
}

export const areaOf = (a: Cell, b: Cell): Area => ({
  from: { row: Math.min(a.row, b.row), column: Math.min(a.column, b.column) },
  to: { row: Math.max(a.row, b.row), column: Math.max(a.column, b.column) },
});

export const isIn = ({ from, to }: Area, { row, column }: Cell) => row >= from.row && row <= to.row && column >= from.column && column <= to.column;

export const cellsOf = ({ from, to }: Area): Cell[] => {
  const cells: Cell[] = [];
  for (let row = from.row; row <= to.row; row++) for (let column = from.column; column <= to.column; column++) cells.push({ row, column });
  return cells;
};

/** What a spreadsheet puts on the clipboard: rows by line, cells by tab; a cell with a tab, line end or quote stands in quotes. */
export function blockOf(text: string): string[][] {
  const rows: string[][] = [[]];
  let cell = '';
  let quoted = false;
  const close = () => {
    rows.at(-1)!.push(cell);
    cell = '';
  };
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!;
    if (quoted) {
      if (c !== '"') cell += c;
      else if (text[i + 1] === '"') cell += text[++i];
      else quoted = false;
    } else if (c === '"' && cell === '') quoted = true;
    else if (c === '\t') close();
    else if (c === '\n' || c === '\r') {
      if (c === '\r' && text[i + 1] === '\n') i++;
      close();
      rows.push([]);
    } else cell += c;
  }
  close();
  // Spreadsheets end the last row with a line end.
  if (rows.at(-1)!.length === 1 && rows.at(-1)![0] === '' && rows.length > 1) rows.pop();
  return rows;
}

export const textOf = (block: readonly (readonly string[])[]) =>
  block.map((row) => row.map((cell) => (/[\t\n\r"]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)).join('\t')).join('\n');

/** Where the values of a block go: one value fills the whole area; a block begins at the area's corner and is cut at the grid's edge. */
export function placed(block: readonly (readonly string[])[], area: Area, rows: number, columns: number): { cell: Cell; value: string }[] {
  if (block.length === 1 && block[0]!.length === 1) return cellsOf(area).map((cell) => ({ cell, value: block[0]![0]! }));
  return block.flatMap((line, r) =>
    line.flatMap((value, c) => {
      const cell = { row: area.from.row + r, column: area.from.column + c };
      return cell.row < rows && cell.column < columns ? [{ cell, value }] : [];
    }),
  );
}

/** The first row of an area, given to all its rows. */
export const filledDown = (area: Area, valueAt: (cell: Cell) => string) =>
  cellsOf(area)
    .filter(({ row }) => row > area.from.row)
    .map((cell) => ({ cell, value: valueAt({ row: area.from.row, column: cell.column }) }));

/** Where a key leads from a cell, kept inside the grid; null for a key that leads nowhere. */
export function moved(key: string, { row, column }: Cell, rows: number, columns: number, page: number, command: boolean): Cell | null {
  const to = {
    ArrowUp: { row: command ? 0 : row - 1, column },
    ArrowDown: { row: command ? rows - 1 : row + 1, column },
    ArrowLeft: { row, column: command ? 0 : column - 1 },
    ArrowRight: { row, column: command ? columns - 1 : column + 1 },
    PageUp: { row: row - page, column },
    PageDown: { row: row + page, column },
    Home: { row: command ? 0 : row, column: 0 },
    End: { row: command ? rows - 1 : row, column: columns - 1 },
  }[key];
  return to ? { row: Math.max(0, Math.min(rows - 1, to.row)), column: Math.max(0, Math.min(columns - 1, to.column)) } : null;
}
