import type { Schema } from "../../api/client";

/** A row is called by its column, or by its group where there are groups. */
export function rowName(row: Schema["IndicesRow"]): string {
  return row.group == null ? row.column : `${row.column}, ${row.group}`;
}
