import { api, type Schema, unwrapResponse } from "../../api/client";
import type { Column, Dataset, TableView } from "../../api/queries";

/** What the grid shows of a dataset: columns that are not hidden, and rows by a view. */
export type Shown = {
  dataset: Dataset;
  columns: Column[];
  /** Where each of them stands among all. */
  at: number[];
  view: TableView;
};

/** Rows as they were read; cells by all columns of the dataset. */
export type ReadRows = {
  first: number;
  /** Rows that the view shows in all. */
  count: number;
  /** Where each row stands in the table. */
  places: number[];
  row_ids: number[];
  cells: (string | null)[][];
  /** The cells beyond their limits, by column and row. */
  beyond: Map<string, Side>;
};

/** On which side of its limits a value lies. */
export type Side = "below" | "above";

const sidesOf = (beyond: number[][]) =>
  new Map(
    beyond.map(([column, row, side]) => [`${column} ${row}`, (side ?? 0) < 0 ? "below" : "above"] as [string, Side]),
  );

export const isPlain = ({ only = [], order = [] }: TableView) => only.length === 0 && order.length === 0;

export function shownOf(dataset: Dataset, view: TableView): Shown {
  const at = dataset.columns.flatMap((column, place) => (column.hidden ? [] : [place]));
  return { dataset, columns: at.map((place) => dataset.columns[place] as Column), at, view };
}

/** Reads rows as they are shown. */
export async function readRows(
  { dataset, view }: Shown,
  first: number,
  count: number,
  signal?: AbortSignal,
): Promise<ReadRows> {
  const path = { id: dataset.id };
  if (isPlain(view)) {
    const query = { first, count };
    const read: Schema["Rows"] = await unwrapResponse(
      api.GET("/api/datasets/{id}/rows", { params: { path, query }, signal: signal ?? null }),
    );
    const places = read.row_ids.map((_, k) => read.first + k);
    const cells = read.cells as (string | null)[][];
    return { ...read, cells, beyond: sidesOf(read.beyond), places, count: dataset.row_count };
  }
  const body = { view, first, count };
  const read = await unwrapResponse(
    api.POST("/api/datasets/{id}/view", { params: { path }, body, signal: signal ?? null }),
  );
  return { ...read, cells: read.cells as (string | null)[][], beyond: sidesOf(read.beyond) };
}
