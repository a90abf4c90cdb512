import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrapResponse } from "../../api/client";
import { type Column, type Dataset, useDatasetChange } from "../../api/queries";
import { counted } from "../../lib/format";
import { Button } from "../../parts/button";
import { notify, notifyProblem } from "../../parts/notices";

type Place = { row: number; column: number };

type Props = {
  dataset: Dataset;
  /** The column that is chosen in the table. */
  column: Column | undefined;
  /** Goes to a cell. */
  onGo: (place: Place) => void;
  onClose: () => void;
};

const FIELD = "h-[29px] w-44 rounded-md border border-hairline bg-sheet px-2";

/** Finds a text in the table, cell after cell, and puts another in its place. */
export function FindBar({ dataset, column, onGo, onClose }: Props) {
  const [find, setFind] = useState("");
  const [replacement, setReplacement] = useState("");
  const [within, setWithin] = useState<"all" | "column">("all");
  const [whole, setWhole] = useState(false);
  const [matchCase, setMatchCase] = useState(false);
  const [at, setAt] = useState(-1);
  const wanted = {
    find,
    whole,
    match_case: matchCase,
    column_ids: within === "column" && column ? [column.id] : null,
  };
  const found = useQuery({
    queryKey: ["find", dataset.id, dataset.revision, wanted],
    queryFn: () =>
      unwrapResponse(api.POST("/api/datasets/{id}/find", { params: { path: { id: dataset.id } }, body: wanted })),
    enabled: find !== "",
  }).data;
  const replace = useDatasetChange(dataset, async () => {
    const body = { ...wanted, revision: dataset.revision, with: replacement };
    const done = await unwrapResponse(
      api.POST("/api/datasets/{id}/replace", { params: { path: { id: dataset.id } }, body }),
    );
    notify(done.count === 0 ? "Nothing was replaced." : `Replaced in ${counted(done.count, "cell", "cells")}.`);
    return done.dataset;
  });
  const go = (by: number) => {
    const cells = found?.cells ?? [];
    if (cells.length === 0) return;
    const next = at < 0 && by < 0 ? cells.length - 1 : (at + by + cells.length) % cells.length;
    const cell = cells[next];
    setAt(next);
    if (cell) onGo({ row: cell.row, column: cell.column_id });
  };
  const change = (act: () => void) => {
    act();
    setAt(-1);
  };
  return (
    <search
      aria-label="Find and replace"
      className="flex flex-wrap items-center gap-2.5 rounded-xl border border-hairline bg-sheet px-3.5 py-1.5 text-[13px]"
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: the bar is opened to type into it
        autoFocus
        aria-label="Find"
        placeholder="find"
        value={find}
        onChange={(event) => change(() => setFind(event.target.value))}
        onKeyDown={(event) => {
          if (event.key === "Enter") go(event.shiftKey ? -1 : 1);
          if (event.key === "Escape") onClose();
        }}
        className={FIELD}
      />
      <select
        aria-label="Find in"
        value={within}
        onChange={(event) => change(() => setWithin(event.target.value as "all" | "column"))}
        className="h-[29px] rounded-md border border-hairline bg-sheet px-1.5"
      >
        <option value="all">in all columns</option>
        <option value="column">in {column?.name}</option>
      </select>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={whole} onChange={(event) => change(() => setWhole(event.target.checked))} />
        whole cells
      </label>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={matchCase}
          onChange={(event) => change(() => setMatchCase(event.target.checked))}
        />
        capitals count
      </label>
      <span role="status" className="min-w-16 text-ink-soft">
        {find !== "" && found && (at >= 0 ? `${at + 1} of ${found.count}` : counted(found.count, "cell", "cells"))}
      </span>
      <Button look="quiet" disabled={!found?.count} onClick={() => go(-1)}>
        Previous
      </Button>
      <Button look="quiet" disabled={!found?.count} onClick={() => go(1)}>
        Next
      </Button>
      <input
        aria-label="Replace with"
        placeholder="replace with"
        value={replacement}
        onChange={(event) => setReplacement(event.target.value)}
        className={FIELD}
      />
      <Button
        look="quiet"
        disabled={!found?.count || replace.isPending}
        onClick={() => replace.mutate(undefined, { onError: notifyProblem })}
      >
        Replace all
      </Button>
      <span className="flex-1" />
      <Button look="quiet" onClick={onClose}>
        Close
      </Button>
    </search>
  );
}
