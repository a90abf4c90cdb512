import { ArrowDown, ArrowUp } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { api, type Schema, unwrapResponse } from "../../api/client";
import { useDatasetChange } from "../../api/queries";
import { Button } from "../../parts/button";
import { notifyProblem } from "../../parts/notices";
import { AllProperties } from "./all-properties";
import { MakeTable } from "./make-table";
import type { Shown } from "./shown";

type Placed = Schema["PlacedColumn"];

/** Which columns the table shows, and in which order. */
export function ColumnsButton({ shown }: { shown: Shown }) {
  const { dataset } = shown;
  const change = useDatasetChange(dataset, (columns: Placed[]) =>
    unwrapResponse(
      api.PUT("/api/datasets/{id}/columns", {
        params: { path: { id: dataset.id } },
        body: { revision: dataset.revision, columns },
      }),
    ),
  );
  const stored: Placed[] = dataset.columns.map(({ id, hidden }) => ({ id, hidden }));
  // What is being stored shows at once.
  const now = (change.isPending && change.variables) || stored;
  const store = (columns: Placed[]) => {
    if (!change.isPending) change.mutate(columns, { onError: notifyProblem });
  };
  const hide = (id: number, hidden: boolean) => store(now.map((one) => (one.id === id ? { id, hidden } : one)));
  const move = (place: number, by: number) => {
    const moved = [...now];
    moved.splice(place + by, 0, ...moved.splice(place, 1));
    store(moved);
  };
  const [open, setOpen] = useState(false);
  const [properties, setProperties] = useState(false);
  const [making, setMaking] = useState(false);
  const out = now.filter(({ hidden }) => hidden).length;
  return (
    <>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger asChild>
          <Button>Columns{out > 0 && <span className="text-ink-soft">{out} hidden</span>}</Button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={6}
            aria-label="Columns"
            className="z-30 max-h-[440px] w-80 overflow-auto rounded-xl border border-hairline bg-sheet p-3 shadow-xl"
          >
            <ul>
              {now.map(({ id, hidden = false }, place) => {
                const name = dataset.columns.find((column) => column.id === id)?.name ?? "";
                return (
                  <li key={id} className="flex items-center gap-1">
                    <label className="flex min-w-0 flex-1 items-center gap-2">
                      <input type="checkbox" checked={!hidden} onChange={(event) => hide(id, !event.target.checked)} />
                      <span className="truncate">{name}</span>
                    </label>
                    <Move name={name} way="up" disabled={place === 0} onMove={() => move(place, -1)} />
                    <Move name={name} way="down" disabled={place === now.length - 1} onMove={() => move(place, 1)} />
                  </li>
                );
              })}
            </ul>
            <p className="mt-2 flex flex-wrap gap-x-4 border-t border-hairline pt-2">
              <Button
                look="quiet"
                onClick={() => {
                  setOpen(false);
                  setProperties(true);
                }}
              >
                Properties of all columns
              </Button>
              <Button
                look="quiet"
                onClick={() => {
                  setOpen(false);
                  setMaking(true);
                }}
              >
                Make a table of this one
              </Button>
            </p>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <AllProperties dataset={dataset} open={properties} onOpenChange={setProperties} />
      {making && <MakeTable shown={shown} open onOpenChange={setMaking} />}
    </>
  );
}

function Move({
  name,
  way,
  disabled,
  onMove,
}: {
  name: string;
  way: "up" | "down";
  disabled: boolean;
  onMove: () => void;
}) {
  const Icon = way === "up" ? ArrowUp : ArrowDown;
  return (
    <button
      type="button"
      aria-label={`Move ${name} ${way}`}
      disabled={disabled}
      onClick={onMove}
      className="rounded p-1 text-moss hover:bg-tint disabled:opacity-30"
    >
      <Icon size={15} aria-hidden />
    </button>
  );
}
