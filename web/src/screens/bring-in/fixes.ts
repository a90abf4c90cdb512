import type { Schema } from "../../api/client";
import type { Wish } from "./preview";

/** The answer given to a value, if any. */
export const fixFor = (wish: Wish, row: number, column: number) =>
  wish.fixes?.find((fix) => fix.row === row && fix.column === column);

/** A correction to one column, with what was corrected in it before. */
export function withColumn(wish: Wish, index: number, part: Partial<Schema["ColumnWish"]>): Pick<Wish, "columns"> {
  const others = (wish.columns ?? []).filter((other) => other.index !== index);
  const own = wish.columns?.find((other) => other.index === index);
  return { columns: [...others, { ...own, index, ...part }] };
}

/** The answers with one more; null takes the value as missing. */
export function withFix(wish: Wish, row: number, column: number, text: string | null): Wish["fixes"] {
  const others = (wish.fixes ?? []).filter((fix) => fix.row !== row || fix.column !== column);
  return [...others, { row, column, text }];
}
