import type { ClipboardEvent } from "react";
import { api, type Schema, unwrapResponse } from "../../api/client";
import { useDatasetChange } from "../../api/queries";
import { counted, grouped } from "../../lib/format";
import { notify, notifyProblem } from "../../parts/notices";
import { asBlock, type Range, sizeOf } from "./range";
import { isPlain, type ReadRows, readRows, type Shown } from "./shown";

/** What is read of a range. */
type Chosen = Omit<ReadRows, "beyond">;

/** Cells copied at once; more go as a file. */
const COPIED_MOST = 100_000;
/** Rows that the server sends at once. */
const WINDOW = 500;

type Edit = { column_id: number; row: number; text: string };
/** The text of a cell: undefined while it is read. */
type CellOf = (row: number, column: number) => string | null | undefined;

/** What can be done with a block of cells: all of it or nothing, undone in one step. */
export function useRange(shown: Shown, range: Range, cell: CellOf, isHidden: (column: number) => boolean) {
  const { dataset } = shown;
  const change = useDatasetChange(dataset, ({ edits, how }: { edits: Edit[]; how: Schema["EditKind"] }) =>
    unwrapResponse(
      api.POST("/api/datasets/{id}/cells", {
        params: { path: { id: dataset.id } },
        body: { revision: dataset.revision, edits, how },
      }),
    ),
  );
  /** The columns, of all, whose cells can be typed. */
  const typed = dataset.columns.flatMap(({ formula }, place) => (formula == null ? [place] : []));
  const put = useDatasetChange(dataset, ({ at, rows }: { at: number; rows: string[][] }) =>
    unwrapResponse(
      api.POST("/api/datasets/{id}/rows", {
        params: { path: { id: dataset.id } },
        body: {
          revision: dataset.revision,
          at,
          column_ids: rows[0]?.length ? typed.map((column) => dataset.columns[column]?.id ?? 0) : [],
          rows,
        },
      }),
    ).then(({ dataset }) => dataset),
  );
  const remove = useDatasetChange(dataset, (row_ids: number[]) =>
    unwrapResponse(
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
  /** Rows out of sight are read first. */
  const read = async (first: number, count: number): Promise<Chosen> => {
    const windows: ReadRows[] = [];
    for (let from = first; from < first + count; from += WINDOW)
      windows.push(await readRows(shown, from, Math.min(WINDOW, first + count - from)));
    const all = <T>(of: (window: ReadRows) => T[]) => windows.flatMap(of);
    return {
      first,
      count,
      places: all(({ places }) => places),
      row_ids: all(({ row_ids }) => row_ids),
      cells: dataset.columns.map((_, column) => all(({ cells }) => cells[column] ?? [])),
    };
  };
  const cellOf =
    ({ first, cells }: Chosen): CellOf =>
    (row, column) =>
      cells[shown.at[column] ?? -1]?.[row - first];
  const store = (edits: Edit[], how: Schema["EditKind"], done: string) =>
    change.mutate({ edits, how }, { onSuccess: () => notify(done), onError: notifyProblem });
  /** Where the rows of the block stand in the table. */
  const placesOf = async (first: number, count: number): Promise<number[]> =>
    isPlain(shown.view)
      ? Array.from({ length: count }, (_, k) => first + k)
      : read(first, count).then(({ places }) => places);
  const editsOf = (text: (column: number) => string, places: number[]) =>
    places.flatMap((row) =>
      columns.flatMap((column) => {
        const target = shown.columns[column];
        return target && target.formula == null ? [{ column_id: target.id, row, text: text(column) }] : [];
      }),
    );
  const copied = () => notify(`Copied ${counted(cells, "cell", "cells")}.`);
  /** Whether it was copied. */
  const copyLater = () =>
    read(range.top, down)
      .then((rows) => navigator.clipboard.writeText(asBlock(lines(cellOf(rows)))))
      .then(() => {
        copied();
        return true;
      })
      .catch((thrown) => {
        notifyProblem(thrown);
        return false;
      });
  const clear = async () => {
    if (tooMany()) return;
    const places = await placesOf(range.top, down).catch(notifyProblem);
    if (!places) return;
    const edits = editsOf(() => "", places);
    store(edits, "cleared", `Cleared ${counted(edits.length, "cell", "cells")}.`);
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
      const [above, places] = await Promise.all([read(range.top, 1), placesOf(range.top + 1, down - 1)]).catch(
        (thrown): [] => {
          notifyProblem(thrown);
          return [];
        },
      );
      if (!above || !places) return;
      const edits = editsOf((column) => cellOf(above)(range.top, column) ?? "", places);
      store(edits, "filled", `Filled ${counted(edits.length, "cell", "cells")}.`);
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
      const copies = rows().map((_, k) => typed.map((column) => chosen.cells[column]?.[k] ?? ""));
      put.mutate(
        { at: range.bottom + 1, rows: copies },
        { onSuccess: () => notify(`Put in ${counted(down, "row", "rows")}.`), onError: notifyProblem },
      );
    },
    deleteRows: async () => {
      const chosen = await read(range.top, down).catch(notifyProblem);
      if (!chosen) return;
      remove.mutate(chosen.row_ids, {
        onSuccess: () => notify(`Deleted ${counted(down, "row", "rows")}.`),
        onError: notifyProblem,
      });
    },
  };
}
