import type { ClipboardEvent } from "react";
import { api, taken } from "../../api/client";
import { type Dataset, useDatasetChange } from "../../api/queries";
import { blockOf } from "../../lib/block";
import { counted } from "../../lib/format";
import { notify, notifyProblem } from "../../parts/notices";

/** Pastes a block over the table from the active cell on, all of it or nothing. */
export function usePaste(dataset: Dataset, { row, column }: { row: number; column: number }) {
  const paste = useDatasetChange((edits: { column_id: number; row: number; text: string }[]) =>
    taken(
      api.POST("/api/datasets/{id}/cells", {
        params: { path: { id: dataset.id } },
        body: { revision: dataset.revision, edits },
      }),
    ),
  );
  return (event: ClipboardEvent) => {
    const text = event.clipboardData.getData("text/plain");
    if (text === "") return;
    event.preventDefault();
    const block = blockOf(text);
    const wide = Math.max(...block.map((line) => line.length));
    const [below, beside] = [row + block.length - dataset.row_count, column + wide - dataset.columns.length];
    if (below > 0 || beside > 0) {
      const rows = below > 0 ? counted(below, "row", "rows") : "";
      const columns = beside > 0 ? counted(beside, "column", "columns") : "";
      notify(
        `Nothing was pasted: the block is ${[rows, columns].filter(Boolean).join(" and ")} larger than the table from here.`,
      );
      return;
    }
    const edits = block.flatMap((line, down) =>
      line.flatMap((text, right) => {
        const target = dataset.columns[column + right];
        return target ? [{ column_id: target.id, row: row + down, text }] : [];
      }),
    );
    paste.mutate(edits, {
      onSuccess: () => notify(`Pasted ${counted(edits.length, "cell", "cells")}.`),
      onError: notifyProblem,
    });
  };
}
