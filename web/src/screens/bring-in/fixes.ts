import type { Schema } from "../../api/client";
import type { ReadOptions } from "./preview";

/** The answer given to a value, if any. */
export const fixFor = (read_options: ReadOptions, row: number, column: number) =>
  read_options.fixes?.find((fix) => fix.row === row && fix.column === column);

/** A correction to one column, with what was corrected in it before. */
export function withColumn(
  read_options: ReadOptions,
  index: number,
  part: Partial<Schema["ColumnReadOptions"]>,
): Pick<ReadOptions, "columns"> {
  const others = (read_options.columns ?? []).filter((other) => other.index !== index);
  const own = read_options.columns?.find((other) => other.index === index);
  return { columns: [...others, { ...own, index, ...part }] };
}

/** The answers with one more; null takes the value as missing. */
export function withFix(
  read_options: ReadOptions,
  row: number,
  column: number,
  text: string | null,
): ReadOptions["fixes"] {
  const others = (read_options.fixes ?? []).filter((fix) => fix.row !== row || fix.column !== column);
  return [...others, { row, column, text }];
}
