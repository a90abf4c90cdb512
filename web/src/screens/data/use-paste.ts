import type { ClipboardEvent } from "react";
import { api, taken } from "../../api/client";
import { useDatasetChange } from "../../api/queries";
import { blockOf } from "../../lib/block";
import { counted } from "../../lib/format";
import { notify, notifyProblem } from "../../parts/notices";
import { isPlain, type Shown } from "./shown";

type Pasted = { column_id: number; row: number; text: string }[];

/** Pastes a block over the table from the active cell on, all of it or nothing; rows that it needs come behind the last one. */
export function usePaste(
  shown: Shown,
  { row, column }: { row: number; column: number },
  place: (row: number) => number | undefined,
) {
  const { dataset, columns } = shown;
  const paste = useDatasetChange((edits: Pasted) =>
    taken(
      api.POST("/api/datasets/{id}/cells", {
        params: { path: { id: dataset.id } },
        body: { revision: dataset.revision, edits, how: "pasted", grow: isPlain(shown.view) },
      }),
    ),
  );
  return (event: ClipboardEvent) => {
    const text = event.clipboardData.getData("text/plain");
    if (text === "") return;
    event.preventDefault();
    const block = blockOf(text);
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
    const grown = Math.max(0, row + block.length - dataset.row_count);
    const news = isPlain(shown.view) && grown > 0 ? `, ${counted(grown, "row", "rows")} of them new` : "";
    paste.mutate(edits, {
      onSuccess: () => notify(`Pasted ${counted(edits.length, "cell", "cells")}${news}.`),
      onError: notifyProblem,
    });
  };
}
