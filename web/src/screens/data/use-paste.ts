import type { ClipboardEvent } from "react";
import { api, unwrapResponse } from "../../api/client";
import { useDatasetChange } from "../../api/queries";
import { blockOf } from "../../lib/block";
import { counted } from "../../lib/format";
import { notify, notifyProblem } from "../../parts/notices";
import { isPlain, type Shown } from "./shown";

type Pasted = { column_id: number; row: number; text: string }[];

/**
 * Pastes a block over the table from the active cell on, all of it or nothing. Rows that it needs come behind the last one, but not in a
 * sheet, whose rows are planned.
 */
export function usePaste(
  shown: Shown,
  { row, column }: { row: number; column: number },
  place: (row: number) => number | undefined,
) {
  const { dataset, columns } = shown;
  const grows = isPlain(shown.view) && dataset.plan == null;
  const paste = useDatasetChange(dataset, (edits: Pasted) =>
    unwrapResponse(
      api.POST("/api/datasets/{id}/cells", {
        params: { path: { id: dataset.id } },
        body: { revision: dataset.revision, edits, how: "pasted", grow: grows },
      }),
    ),
  );
  return (event: ClipboardEvent) => {
    const text = event.clipboardData.getData("text/plain");
    if (text === "") return;
    event.preventDefault();
    const block = blockOf(text);
    const below = row + block.length - dataset.row_count;
    if (dataset.plan != null && below > 0) {
      notify(`Nothing was pasted: the block is ${counted(below, "row", "rows")} larger than the table from here.`);
      return;
    }
    const beside = column + Math.max(...block.map((line) => line.length)) - columns.length;
    const rows = block.map((_, down) => place(row + down));
    if (beside > 0 || rows.includes(undefined)) {
      const wide = beside > 0 ? `${counted(beside, "column", "columns")} wider` : "longer";
      notify(`Nothing was pasted: the block is ${wide} than what is shown from here.`);
      return;
    }
    const edits = block.flatMap((line, down) =>
      line.flatMap((text, right) => {
        const target = columns[column + right];
        return target ? [{ column_id: target.id, row: rows[down] ?? 0, text }] : [];
      }),
    );
    const news = grows && below > 0 ? `, ${counted(below, "row", "rows")} of them new` : "";
    paste.mutate(edits, {
      onSuccess: () => notify(`Pasted ${counted(edits.length, "cell", "cells")}${news}.`),
      onError: notifyProblem,
    });
  };
}
