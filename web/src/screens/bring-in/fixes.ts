import type { Schema } from "../../api/client";
import type { ReadOptions } from "./preview";

/** The answer given to a value, if any. */
export const fixFor = (readOptions: ReadOptions, row: number, column: number) =>
  readOptions.fixes?.find((fix) => fix.row === row && fix.column === column);

/** A correction to one column, with what was corrected in it before. */
export function withColumn(
  readOptions: ReadOptions,
  index: number,
  part: Partial<Schema["ColumnReadOptions"]>,
): Pick<ReadOptions, "columns"> {
  const others = (readOptions.columns ?? []).filter((other) => other.index !== index);
  const own = readOptions.columns?.find((other) => other.index === index);
  return { columns: [...others, { ...own, index, ...part }] };
}

/** The answers with one more; null takes the value as missing. */
export function withFix(
  readOptions: ReadOptions,
  row: number,
  column: number,
  text: string | null,
): ReadOptions["fixes"] {
  const others = (readOptions.fixes ?? []).filter((fix) => fix.row !== row || fix.column !== column);
  return [...others, { row, column, text }];
}
