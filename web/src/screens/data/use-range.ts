import type { ClipboardEvent } from "react";
import { api, taken } from "../../api/client";
import { type Dataset, useDatasetChange } from "../../api/queries";
import { counted, grouped } from "../../lib/format";
import { notify, notifyProblem } from "../../parts/notices";
import { asBlock, type Range, sizeOf } from "./range";

/** Cells copied at once; more go as a file. */
const COPIED_MOST = 100_000;
/** Rows that the server sends at once. */
const WINDOW = 500;

type Edit = { column_id: number; row: number; text: string };
/** The text of a cell: undefined while it is read. */
type CellOf = (row: number, column: number) => string | null | undefined;

/** What can be done with a block of cells: all of it or nothing, undone in one step. */
export function useRange(dataset: Dataset, range: Range, cell: CellOf, isHidden: (column: number) => boolean) {
  const change = useDatasetChange((edits: Edit[]) =>
    taken(
      api.POST("/api/datasets/{id}/cells", {
        params: { path: { id: dataset.id } },
        body: { revision: dataset.revision, edits },
      }),
    ),
  );
  const put = useDatasetChange(({ at, rows }: { at: number; rows: string[][] }) =>
    taken(
      api.POST("/api/datasets/{id}/rows", {
        params: { path: { id: dataset.id } },
        body: {
          revision: dataset.revision,
          at,
          column_ids: rows[0]?.length ? dataset.columns.map(({ id }) => id) : [],
          rows,
        },
      }),
    ).then(({ dataset }) => dataset),
  );
  const remove = useDatasetChange((row_ids: number[]) =>
    taken(
      api.DELETE("/api/datasets/{id}/rows", {
        params: { path: { id: dataset.id } },
        body: { revision: dataset.revision, row_ids },
      }),
    ),
  );
  const { down, cells } = sizeOf(range);
  const rows = () => Array.from({ length: down }, (_, k) => range.top + k);
  const columns = Array.from({ length: range.right - range.left + 1 }, (_, k) => range.left + k);
  const tooMany = () => {
    if (cells <= COPIED_MOST) return false;
    notify(`${grouped(cells)} cells are more than ${grouped(COPIED_MOST)}; send the table out as a file instead.`);
    return true;
  };
  const lines = (cell: CellOf) =>
    rows().map((row) => columns.map((column) => (isHidden(column) ? "" : (cell(row, column) ?? ""))));
  const isRead = () => rows().every((row) => columns.every((column) => cell(row, column) !== undefined));
  /** Cells out of sight are read first, with the ids of their rows. */
  const read = async (first: number, count: number): Promise<{ cell: CellOf; ids: number[] }> => {
    const windows = new Map<number, (string | null)[][]>();
    const ids: number[] = [];
    for (let from = first; from < first + count; from += WINDOW) {
      const query = { first: from, count: WINDOW };
      const sent = await taken(api.GET("/api/datasets/{id}/rows", { params: { path: { id: dataset.id }, query } }));
      windows.set(from, sent.cells as (string | null)[][]);
      ids.push(...sent.row_ids);
    }
    const cell = (row: number, column: number) => {
      const from = first + Math.floor((row - first) / WINDOW) * WINDOW;
      return windows.get(from)?.[column]?.[row - from];
    };
    return { cell, ids: ids.slice(0, count) };
  };
  const store = (edits: Edit[], done: string) =>
    change.mutate(edits, { onSuccess: () => notify(done), onError: notifyProblem });
  const editsOf = (text: (row: number, column: number) => string, rows: number[]) =>
    rows.flatMap((row) =>
      columns.flatMap((column) => {
        const target = dataset.columns[column];
        return target ? [{ column_id: target.id, row, text: text(row, column) }] : [];
      }),
    );
  const copied = () => notify(`Copied ${counted(cells, "cell", "cells")}.`);
  /** Whether it was copied. */
  const copyLater = () =>
    read(range.top, down)
      .then(({ cell }) => navigator.clipboard.writeText(asBlock(lines(cell))))
      .then(() => {
        copied();
        return true;
      })
      .catch((thrown) => {
        notifyProblem(thrown);
        return false;
      });
  const clear = () => {
    if (tooMany()) return;
    store(
      editsOf(() => "", rows()),
      `Cleared ${counted(cells, "cell", "cells")}.`,
    );
  };
  const copy = async (event?: ClipboardEvent): Promise<boolean> => {
    event?.preventDefault();
    if (tooMany()) return false;
    if (!event || !isRead()) return copyLater();
    event.clipboardData.setData("text/plain", asBlock(lines(cell)));
    copied();
    return true;
  };
  return {
    copy,
    cut: async (event: ClipboardEvent) => {
      if (await copy(event)) clear();
    },
    clear,
    /** What stands in the first row of the block goes into every row below it. */
    fillDown: async () => {
      if (down < 2 || tooMany()) return;
      const above = await read(range.top, 1).catch(notifyProblem);
      if (!above) return;
      const edits = editsOf((_, column) => above.cell(range.top, column) ?? "", rows().slice(1));
      store(edits, `Filled ${counted(edits.length, "cell", "cells")}.`);
    },
    /** As many empty rows as are chosen come before them. */
    insertRows: () =>
      put.mutate(
        { at: range.top, rows: rows().map(() => []) },
        { onSuccess: () => notify(`Put in ${counted(down, "row", "rows")}.`), onError: notifyProblem },
      ),
    /** The chosen rows come once more behind them. */
    duplicateRows: async () => {
      const chosen = await read(range.top, down).catch(notifyProblem);
      if (!chosen) return;
      const copies = rows().map((row) => dataset.columns.map((_, column) => chosen.cell(row, column) ?? ""));
      put.mutate(
        { at: range.bottom + 1, rows: copies },
        { onSuccess: () => notify(`Put in ${counted(down, "row", "rows")}.`), onError: notifyProblem },
      );
    },
    deleteRows: async () => {
      const chosen = await read(range.top, down).catch(notifyProblem);
      if (!chosen) return;
      remove.mutate(chosen.ids, {
        onSuccess: () => notify(`Deleted ${counted(down, "row", "rows")}.`),
        onError: notifyProblem,
      });
    },
  };
}
