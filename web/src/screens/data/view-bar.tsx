import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { DropdownMenu, Popover } from "radix-ui";
import { useState } from "react";
import { api, problemOf, unwrapResponse } from "../../api/client";
import {
  type Column,
  type Dataset,
  type FilterStep,
  type TableView,
  useDatasetChange,
  viewsQuery,
} from "../../api/queries";
import { counted } from "../../lib/format";
import { onlyWords } from "../../lib/only";
import { Button } from "../../parts/button";
import { notify, notifyProblem } from "../../parts/notices";
import { MenuItem } from "../../study/figure-frame";
import { RowsHealth } from "./health";
import { Narrow } from "./narrow";
import { isPlain } from "./shown";

type Props = {
  dataset: Dataset;
  view: TableView;
  /** The column that is chosen in the table. */
  column: Column | undefined;
  /** How many rows are shown; undefined while that is found out. */
  count: number | undefined;
  error: unknown;
  onChange: (view: TableView) => void;
};

/** Which rows a table shows, and in which order: each step with a way back, and views that are kept under a name. */
export function ViewBar({ dataset, view, column, count, error, onChange }: Props) {
  const { only = [], order = [] } = view;
  const without = (place: number) => onChange({ only: only.filter((_, other) => other !== place), order });
  const add = (step: FilterStep) => onChange({ only: [...only, step], order });
  const sort = (column: string, descending: boolean) =>
    onChange({ only, order: [{ column, descending }, ...order.filter((by) => by.column !== column)] });
  const problem = error ? problemOf(error) : null;
  return (
    <section aria-label="Rows shown" className="flex flex-wrap items-center gap-2 text-[13px]">
      {column && <Narrow dataset={dataset} column={column} onAdd={add} onSort={sort} />}
      {only.map((step, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a step may come twice
        <Step key={place} words={onlyWords(step)} onGone={() => without(place)} />
      ))}
      {order.map((by) => (
        <Step
          key={by.column}
          words={`by ${by.column}${by.descending ? ", largest first" : ""}`}
          onGone={() => onChange({ only, order: order.filter((other) => other !== by) })}
        />
      ))}
      {!isPlain(view) && (
        <>
          <span role="status" className="text-ink-soft">
            {count === undefined
              ? "looking …"
              : `${counted(count, "row", "rows")} of ${dataset.row_count.toLocaleString("en-US")}`}
          </span>
          <Button look="quiet" onClick={() => onChange({ only: [], order: [] })}>
            All rows
          </Button>
          <Keep dataset={dataset} view={view} />
          {order.length > 0 && <ForGood dataset={dataset} view={view} onDone={() => onChange({ only, order: [] })} />}
        </>
      )}
      <Views dataset={dataset} onChoose={onChange} />
      <span className="flex-1" />
      <RowsHealth dataset={dataset} onShow={(step) => onChange({ only: [step], order: [] })} />
      {problem && (
        <p role="alert" className="text-clay">
          {problem.detail}. <span className="text-ink-soft">{problem.advice}</span>
        </p>
      )}
    </section>
  );
}

function Step({ words, onGone }: { words: string; onGone: () => void }) {
  return (
    <span className="flex items-center gap-1.5 rounded-full bg-tint py-0.5 pl-3 pr-1.5">
      {words}
      <button
        type="button"
        aria-label={`Without ${words}`}
        onClick={onGone}
        className="rounded-full px-1 hover:text-clay"
      >
        ×
      </button>
    </span>
  );
}

/** Puts the rows of the table itself in the order in which they are shown. */
function ForGood({ dataset, view, onDone }: { dataset: Dataset; view: TableView; onDone: () => void }) {
  const put = useDatasetChange(dataset, (order: TableView["order"]) =>
    unwrapResponse(
      api.PUT("/api/datasets/{id}/order", {
        params: { path: { id: dataset.id } },
        body: { revision: dataset.revision, order: order ?? [] },
      }),
    ),
  );
  if (dataset.plan) return null;
  return (
    <Button
      look="quiet"
      disabled={put.isPending}
      title="Charts by row follow; Undo puts the rows back"
      onClick={() =>
        put.mutate(view.order, {
          onSuccess: () => {
            onDone();
            notify("The rows stand in this order now; Undo puts them back.");
          },
          onError: notifyProblem,
        })
      }
    >
      Keep the rows in this order
    </Button>
  );
}

/** Keeps what is shown under a name. */
function Keep({ dataset, view }: { dataset: Dataset; view: TableView }) {
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const keep = useMutation({
    mutationFn: (name: string) =>
      unwrapResponse(
        api.POST("/api/datasets/{id}/views", { params: { path: { id: dataset.id } }, body: { name, view } }),
      ),
    onSuccess: (views) => {
      queries.setQueryData(viewsQuery(dataset).queryKey, views);
      setOpen(false);
    },
  });
  const problem = keep.error ? problemOf(keep.error) : null;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button look="quiet">Keep as a view</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="Keep as a view"
          className="z-30 w-72 rounded-xl border border-hairline bg-sheet p-3.5 shadow-xl"
        >
          <form
            onSubmit={(event) => {
              event.preventDefault();
              keep.mutate(String(new FormData(event.currentTarget).get("name")));
            }}
            className="flex flex-col gap-2"
          >
            <label className="flex flex-col gap-1">
              <span>name of the view</span>
              <input name="name" required className="h-[31px] rounded-md border border-hairline bg-sheet px-2" />
            </label>
            {problem && (
              <p role="alert" className="text-[13px] text-clay">
                {problem.detail}. {problem.advice}
              </p>
            )}
            <Button look="primary" type="submit" disabled={keep.isPending}>
              Keep
            </Button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The views that are kept: one is shown, or given up. */
function Views({ dataset, onChoose }: { dataset: Dataset; onChoose: (view: TableView) => void }) {
  const queries = useQueryClient();
  const views = useQuery(viewsQuery(dataset)).data ?? [];
  const forget = useMutation({
    mutationFn: (view_id: number) =>
      unwrapResponse(
        api.DELETE("/api/datasets/{id}/views/{view_id}", { params: { path: { id: dataset.id, view_id } } }),
      ),
    onSuccess: (views) => queries.setQueryData(viewsQuery(dataset).queryKey, views),
  });
  if (views.length === 0) return null;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="rounded-full border border-hairline bg-sheet px-3 py-0.5 hover:border-moss">
        {counted(views.length, "view", "views")} ▾
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          className="z-30 max-h-96 overflow-auto rounded-lg border border-hairline bg-sheet p-1 shadow-xl"
        >
          {views.map(({ id, name, view }) => (
            <MenuItem key={id} onSelect={() => onChoose(view)}>
              {name}
            </MenuItem>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
          {views.map(({ id, name }) => (
            <MenuItem key={id} onSelect={() => forget.mutate(id)}>
              Give up {name}
            </MenuItem>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
