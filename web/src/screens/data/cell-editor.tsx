import { useQuery } from "@tanstack/react-query";
import { useEffect, useId, useRef, useState } from "react";
import { api, problemOf, unwrapResponse } from "../../api/client";
import { type Column, type Dataset, labelsQuery, useDatasetChange } from "../../api/queries";

type Props = {
  dataset: Dataset;
  column: Column;
  row: number;
  width: number;
  start: string;
  onDone: (move: boolean) => void;
};

/** Most labels that are offered where a column has no choices of its own. */
const OFFERED_MOST = 200;

/** The field over a cell, which offers what is chosen from. What was typed stays until it is stored or given up with Escape. */
export function CellEditor({ dataset, column, row, width, start, onDone }: Props) {
  const [text, setText] = useState(start);
  const id = useId();
  const own = column.rules?.choices ?? [];
  const labels = useQuery({ ...labelsQuery(dataset, column), enabled: column.kind === "category" && own.length === 0 });
  const choices = own.length > 0 ? own : (labels.data ?? []).slice(0, OFFERED_MOST);
  const field = useRef<HTMLInputElement>(null);
  const settled = useRef(false);
  const edit = useDatasetChange(dataset, (text: string) =>
    unwrapResponse(
      api.PATCH("/api/datasets/{id}/cells", {
        params: { path: { id: dataset.id } },
        body: { revision: dataset.revision, column_id: column.id, row, text },
        // What was typed arrives also when the page is left at once.
        keepalive: text.length < 10_000,
      }),
    ),
  );
  const save = (move: boolean) => {
    if (settled.current || edit.isPending) return;
    edit.mutate(text, {
      onSuccess: () => {
        settled.current = true;
        onDone(move);
      },
      onError: () => field.current?.focus(),
    });
  };
  useEffect(() => {
    const input = field.current;
    input?.focus();
    input?.setSelectionRange(input.value.length, input.value.length);
  }, []);
  const problem = edit.error ? problemOf(edit.error) : null;
  return (
    <div role="gridcell" className="relative shrink-0" style={{ width }}>
      <input
        ref={field}
        list={choices.length > 0 ? `${id} choices` : undefined}
        aria-label={`${column.name}, row ${row + 1}`}
        aria-invalid={problem !== null}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => save(false)}
        onKeyDown={(event) => {
          if (event.key === "Enter") save(true);
          if (event.key === "Escape") {
            settled.current = true;
            onDone(false);
          }
        }}
        className="absolute inset-0 z-10 bg-sheet px-2.5 outline-2 -outline-offset-2 outline-moss aria-invalid:outline-clay"
      />
      {choices.length > 0 && (
        <datalist id={`${id} choices`}>
          {choices.map((choice) => (
            <option key={choice} value={choice} />
          ))}
        </datalist>
      )}
      {problem && (
        <p
          role="alert"
          className="absolute left-0 top-7 z-20 w-64 rounded-md bg-bark px-2.5 py-1.5 text-[13px] text-[#f5f3ec]"
        >
          {problem.detail}. {problem.advice}
        </p>
      )}
    </div>
  );
}
