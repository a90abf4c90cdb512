/** A cell by its place. */
export type Place = { row: number; column: number };

/** A block of cells, ends included. */
export type Range = { top: number; bottom: number; left: number; right: number };

/** The block between two of its corners. */
export const rangeOf = (one: Place, other: Place): Range => ({
  top: Math.min(one.row, other.row),
  bottom: Math.max(one.row, other.row),
  left: Math.min(one.column, other.column),
  right: Math.max(one.column, other.column),
});

export const isWithin = ({ top, bottom, left, right }: Range, row: number, column: number) =>
  row >= top && row <= bottom && column >= left && column <= right;

export const sizeOf = ({ top, bottom, left, right }: Range) => {
  const [down, across] = [bottom - top + 1, right - left + 1];
  return { down, across, cells: down * across };
};

/** Cells as a spreadsheet takes them: tabs between, quotation marks around what has tabs, line ends or such marks itself. */
export const asBlock = (lines: string[][]): string =>
  lines
    .map((line) => line.map((text) => (/[\t\n\r"]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)).join("\t"))
    .join("\n");
