import type { Wish } from "./preview";

/** The answer given to a value, if any. */
export const fixFor = (wish: Wish, row: number, column: number) =>
  wish.fixes?.find((fix) => fix.row === row && fix.column === column);

/** The answers with one more; null takes the value as missing. */
export function withFix(wish: Wish, row: number, column: number, text: string | null): Wish["fixes"] {
  const others = (wish.fixes ?? []).filter((fix) => fix.row !== row || fix.column !== column);
  return [...others, { row, column, text }];
}
